namespace EvenThimble.Core.Text;

/// <summary>Latin letters with a mark, taken apart and put together. The program keeps to one language's rules for text, with which the runtime's own normalisation leaves them as they are.</summary>
public static class MarkedLetters
{
    // By the combining mark (Unicode), pairs of a plain letter and the marked one.
    private static readonly Dictionary<char, string> ByMark = new()
    {
        ['\u0300'] = "AÀEÈIÌOÒUÙaàeèiìoòuùWẀwẁYỲyỳ",
        ['\u0301'] = "AÁEÉIÍOÓUÚYÝaáeéiíoóuúyýCĆcćLĹlĺNŃnńRŔrŕSŚsśZŹzźKḰkḱMḾmḿPṔpṕWẂwẃ",
        ['\u0302'] = "AÂEÊIÎOÔUÛaâeêiîoôuûCĈcĉGĜgĝHĤhĥJĴjĵSŜsŝWŴwŵYŶyŷZẐzẑ",
        ['\u0303'] = "AÃNÑOÕaãnñoõIĨiĩUŨuũVṼvṽEẼeẽYỸyỹ",
        ['\u0308'] = "AÄEËIÏOÖUÜaäeëiïoöuüyÿYŸHḦhḧWẄwẅXẌxẍtẗ",
        ['\u030A'] = "AÅaåUŮuůwẘyẙ",
        ['\u0327'] = "CÇcçGĢgģKĶkķLĻlļNŅnņRŖrŗSŞsşTŢtţDḐdḑHḨhḩ",
        ['\u0304'] = "AĀaāEĒeēIĪiīOŌoōUŪuūGḠgḡ",
        ['\u0306'] = "AĂaăEĔeĕGĞgğIĬiĭOŎoŏUŬuŭ",
        ['\u0328'] = "AĄaąEĘeęIĮiįUŲuų",
        ['\u0307'] = "CĊcċEĖeėGĠgġIİZŻzżBḂbḃDḊdḋFḞfḟHḢhḣMṀmṁNṄnṅPṖpṗRṘrṙSṠsṡTṪtṫWẆwẇXẊxẋYẎyẏ",
        ['\u030C'] = "CČcčDĎdďEĚeěLĽlľNŇnňRŘrřSŠsšTŤtťZŽzž",
        ['\u030B'] = "OŐoőUŰuű",
        ['\u0326'] = "SȘsșTȚtț",
    };

    private static readonly Dictionary<char, (char Letter, char Mark)> Parts = ByMark.SelectMany(m => m.Value.Chunk(2).Select(p => (Marked: p[1], Letter: p[0], Mark: m.Key))).ToDictionary(p => p.Marked, p => (p.Letter, p.Mark));

    private static readonly Dictionary<(char Letter, char Mark), char> Marked = Parts.ToDictionary(p => p.Value, p => p.Key);

    /// <summary>The marked letter of a letter and a combining mark; null: there is none.</summary>
    public static char? Of(char letter, char mark) => Marked.TryGetValue((letter, mark), out var marked) ? marked : null;

    /// <summary>A text in which letters followed by a combining mark are the marked letters.</summary>
    public static string Composed(string text)
    {
        if (!text.Any(ByMark.ContainsKey)) return text;
        var composed = new System.Text.StringBuilder(text.Length);
        foreach (var c in text)
        {
            if (composed.Length > 0 && Of(composed[^1], c) is { } marked) composed[^1] = marked;
            else composed.Append(c);
        }

        return composed.ToString();
    }

    /// <summary>The letter of a character without its mark, and the mark; null where it has none.</summary>
    public static (char Letter, char? Mark) Apart(string character)
    {
        var first = character[0];
        if (Parts.TryGetValue(first, out var parts)) return parts;
        return character.Length > 1 && ByMark.ContainsKey(character[1]) ? (first, character[1]) : (first, null);
    }
}
