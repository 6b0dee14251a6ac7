using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Names;

/// <summary>What a roster may have that is better mended before it is sewn.</summary>
public enum RosterFault
{
    /// <summary>Nothing stands in any field of a person.</summary>
    Empty,

    /// <summary>All that stands there stands at another person too.</summary>
    Double,

    /// <summary>Spaces at the beginning, at the end, or several together.</summary>
    Spaces,

    /// <summary>All in capital or all in small letters, among others that are not.</summary>
    Letters,

    /// <summary>Signs that are no letters of a name, such as pictures.</summary>
    Signs,
}

/// <summary>A fault of a person.</summary>
/// <param name="Person">Whose.</param>
/// <param name="Field">The field; -1: the person as a whole.</param>
/// <param name="Fault">What.</param>
/// <param name="Says">In a sentence.</param>
/// <param name="Mended">What the value would become; null: the person would be taken out.</param>
public sealed record FaultOfPerson(PersonId Person, int Field, RosterFault Fault, string Says, string? Mended);

/// <summary>Looks through a roster for what people get wrong in lists, and mends it.</summary>
public static partial class RosterChecks
{
    /// <summary>All faults, in the order of the roster.</summary>
    public static IReadOnlyList<FaultOfPerson> Of(Roster roster)
    {
        var (faults, seen) = (new List<FaultOfPerson>(), new Dictionary<string, int>());
        var mixed = Enumerable.Range(0, roster.Fields.Length).Select(f => roster.People.Count(p => IsMixed(p.Values[f])) > roster.People.Length / 2).ToArray();
        for (var n = 0; n < roster.People.Length; n++)
        {
            var person = roster.People[n];
            if (person.Values.All(string.IsNullOrWhiteSpace))
            {
                faults.Add(new(person.Id, -1, RosterFault.Empty, $"Line {n + 1} is empty.", null));
                continue;
            }

            var key = string.Join('\u001F', person.Values.Select(v => Folded(v)));
            if (!seen.TryAdd(key, n)) faults.Add(new(person.Id, -1, RosterFault.Double, $"“{Words(person)}” stands on line {seen[key] + 1} already.", null));
            for (var f = 0; f < person.Values.Length; f++)
            {
                var value = person.Values[f];
                if (value.Length == 0) continue;
                if (Tidied(value) is var tidy && tidy != value) faults.Add(new(person.Id, f, RosterFault.Spaces, $"“{value}” has spaces that are too many.", tidy));
                if (value.Any(IsNoLetter) && Cleared(value) is var clear) faults.Add(new(person.Id, f, RosterFault.Signs, $"“{value}” has signs that no font sews.", clear));
                if (mixed[f] && IsOneCase(value)) faults.Add(new(person.Id, f, RosterFault.Letters, $"“{value}” is all in {(value.Any(char.IsUpper) ? "capital" : "small")} letters.", Spelled(value)));
            }
        }

        return faults;
    }

    /// <summary>A roster with all faults of a kind mended.</summary>
    public static Roster Mended(Roster roster, RosterFault fault)
    {
        var (gone, now) = (new HashSet<PersonId>(), roster);
        foreach (var found in Of(roster).Where(f => f.Fault == fault))
        {
            if (found.Mended is null) gone.Add(found.Person);
            else now = now.With(found.Person, found.Field, found.Mended);
        }

        return gone.Count == 0 ? now : now.Without(gone);
    }

    /// <summary>A text without signs that no font sews; where it has none, in plain letters. Line breaks stay.</summary>
    public static string Plainly(string text)
    {
        var lines = text.Split('\n');
        var cleared = lines.Select(Cleared).ToList();
        return string.Join('\n', (cleared.SequenceEqual(lines) ? lines.Select(PlainLetters.Of) : cleared).Where(line => line.Length > 0));
    }

    /// <summary>What a kind is called, and the button that mends it.</summary>
    public static (string Name, string Mends) InWords(RosterFault fault) => fault switch
    {
        RosterFault.Empty => ("empty lines", "Take empty lines out"),
        RosterFault.Double => ("people who stand there twice", "Take those who stand there twice out"),
        RosterFault.Spaces => ("spaces that are too many", "Take spaces out"),
        RosterFault.Letters => ("names all in capital or small letters", "Capital letters as in other names"),
        _ => ("signs that no font sews", "Take those signs out"),
    };

    /// <summary>All that is known of a person, in a line.</summary>
    public static string Words(Person person) => string.Join(' ', person.Values.Where(v => v.Trim().Length > 0).Select(Tidied));

    private static string Tidied(string value) => Gaps().Replace(value, " ").Trim();

    private static string Folded(string value) => Tidied(value).ToUpperInvariant();

    private static bool IsNoLetter(char c) => char.IsSurrogate(c) || char.GetUnicodeCategory(c) is UnicodeCategory.OtherSymbol or UnicodeCategory.PrivateUse or UnicodeCategory.OtherNotAssigned;

    private static string Cleared(string value)
    {
        var kept = new StringBuilder();
        foreach (var rune in value.EnumerateRunes())
            if (Rune.IsLetterOrDigit(rune) || (rune.IsBmp && !IsNoLetter((char)rune.Value) && rune.Value != 0xFE0F)) kept.Append(rune.ToString());
        return Tidied(kept.ToString());
    }

    private static bool IsMixed(string value) => value.Any(char.IsUpper) && value.Any(char.IsLower);

    /// <summary>Words of one case only; a single letter or an abbreviation such as "JP" is none.</summary>
    private static bool IsOneCase(string value) => value.Count(char.IsLetter) > 2 && (value.All(c => !char.IsLower(c)) && value.Any(char.IsUpper) || value.All(c => !char.IsUpper(c)) && value.Any(char.IsLower));

    /// <summary>Each word with a capital first, after hyphens and apostrophes too.</summary>
    private static string Spelled(string value) => Initials().Replace(value.ToLowerInvariant(), m => m.Value.ToUpperInvariant());

    [GeneratedRegex(@"[\s\u00A0]{2,}|[\t\u00A0]")]
    private static partial Regex Gaps();

    [GeneratedRegex(@"(?<![\p{L}\p{M}])\p{Ll}")]
    private static partial Regex Initials();
}
