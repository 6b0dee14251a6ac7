using System.Text.RegularExpressions;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Names;

/// <summary>The text of a slot or of a file name: words, and fields in braces such as <c>{given} {family}</c>; line breaks part its lines.</summary>
public static partial class SlotText
{
    /// <summary>No pattern is longer, characters.</summary>
    public const int LongestPattern = 300;

    /// <summary>The fields that a pattern names, each once.</summary>
    public static IReadOnlyList<string> FieldsIn(string pattern) => [.. Field().Matches(pattern).Select(m => m.Groups[1].Value.Trim()).Distinct(StringComparer.OrdinalIgnoreCase)];

    /// <summary>A pattern filled in. What is left empty leaves no double spaces, and no empty lines.</summary>
    /// <param name="pattern">The pattern.</param>
    /// <param name="valueOf">What stands in a field; null: there is no such field, and it is left out.</param>
    public static string Filled(string pattern, Func<string, string?> valueOf)
    {
        var filled = Field().Replace(pattern.ReplaceLineEndings("\n"), m => valueOf(m.Groups[1].Value.Trim()) ?? string.Empty);
        return string.Join('\n', filled.Split('\n').Select(Titles.Clean).Where(line => line.Length > 0));
    }

    /// <summary>The text of a person.</summary>
    public static string Of(string pattern, Roster roster, Person person) => Filled(pattern, field => roster.FieldNumber(field) >= 0 ? roster.ValueOf(person, field) : null);

    /// <summary>The pattern that suits a roster: its first two fields, where they are given and family names, else its first.</summary>
    public static string Suggested(Roster roster) => roster.Fields.Length >= 2 && roster.FieldNumber("given") >= 0 && roster.FieldNumber("family") >= 0 ? "{given} {family}" : $"{{{roster.Fields[0]}}}";

    [GeneratedRegex(@"\{([^{}\n]*)\}")]
    private static partial Regex Field();
}
