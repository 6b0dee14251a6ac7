using System.Globalization;
using System.Text;

namespace EvenThimble.Core.Text;

/// <summary>Letters with accents, strokes and hooks as plain ones, for names on machines and for comparing words. The program runs without the tables of a system, so they stand here (after the canonical decompositions of the Unicode Character Database).</summary>
public static class PlainLetters
{
    // A plain letter, and those that are it with something on it.
    private static readonly string[] Alike =
    [
        "AÀÁÂÃÄÅĀĂĄǍǞǠǺȀȂȦḀẠẢẤẦẨẪẬẮẰẲẴẶ",
        "BḂḄḆ",
        "CÇĆĈĊČḈ",
        "DĎḊḌḎḐḒĐÐ",
        "EÈÉÊËĒĔĖĘĚȄȆȨḔḖḘḚḜẸẺẼẾỀỂỄỆ",
        "FḞ",
        "GĜĞĠĢǦǴḠ",
        "HĤȞḢḤḦḨḪĦ",
        "IÌÍÎÏĨĪĬĮİǏȈȊḬḮỈỊ",
        "JĴ",
        "KĶǨḰḲḴ",
        "LĹĻĽḶḸḺḼŁ",
        "MḾṀṂ",
        "NÑŃŅŇǸṄṆṈṊŊ",
        "OÒÓÔÕÖŌŎŐƠǑǪǬȌȎȪȬȮȰṌṎṐṒỌỎỐỒỔỖỘỚỜỞỠỢØ",
        "PṔṖ",
        "RŔŖŘȐȒṘṚṜṞ",
        "SŚŜŞŠȘṠṢṤṦṨ",
        "TŢŤȚṪṬṮṰŦ",
        "UÙÚÛÜŨŪŬŮŰŲƯǓǕǗǙǛȔȖṲṴṶṸṺỤỦỨỪỬỮỰ",
        "VṼṾ",
        "WŴẀẂẄẆẈ",
        "XẊẌ",
        "YÝŶŸȲẎỲỴỶỸ",
        "ZŹŻŽẐẒẔ",
        "aàáâãäåāăąǎǟǡǻȁȃȧḁạảấầẩẫậắằẳẵặ",
        "bḃḅḇ",
        "cçćĉċčḉ",
        "dďḋḍḏḑḓđð",
        "eèéêëēĕėęěȅȇȩḕḗḙḛḝẹẻẽếềểễệ",
        "fḟ",
        "gĝğġģǧǵḡ",
        "hĥȟḣḥḧḩḫẖħ",
        "iìíîïĩīĭįǐȉȋḭḯỉịı",
        "jĵǰ",
        "kķǩḱḳḵĸ",
        "lĺļľḷḹḻḽł",
        "mḿṁṃ",
        "nñńņňǹṅṇṉṋŋ",
        "oòóôõöōŏőơǒǫǭȍȏȫȭȯȱṍṏṑṓọỏốồổỗộớờởỡợø",
        "pṕṗ",
        "rŕŗřȑȓṙṛṝṟ",
        "sśŝşšșṡṣṥṧṩſ",
        "tţťțṫṭṯṱẗŧ",
        "uùúûüũūŭůűųưǔǖǘǚǜȕȗṳṵṷṹṻụủứừửữự",
        "vṽṿ",
        "wŵẁẃẅẇẉẘ",
        "xẋẍ",
        "yýÿŷȳẏẙỳỵỷỹ",
        "zźżžẑẓẕ",
    ];

    // Letters that are written as two.
    private static readonly (char Letter, string Plain)[] AsTwo = [('ß', "ss"), ('ẞ', "SS"), ('æ', "ae"), ('Æ', "Ae"), ('œ', "oe"), ('Œ', "Oe"), ('þ', "th"), ('Þ', "Th"), ('ĳ', "ij"), ('Ĳ', "IJ")];
    private static readonly Dictionary<char, string> Plain = Alike.SelectMany(a => a.Skip(1).Select(c => (c, a[..1]))).Concat(AsTwo.Select(t => (t.Letter, t.Plain))).ToDictionary(p => p.Item1, p => p.Item2);

    /// <summary>The text in plain letters; what has none stays as it is, and signs that stand over others go.</summary>
    public static string Of(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var c in text)
            if (Plain.TryGetValue(c, out var letters)) plain.Append(letters);
            else if (char.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark) plain.Append(c);
        return plain.ToString();
    }
}
