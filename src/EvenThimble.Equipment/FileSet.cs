using System.Globalization;
using System.Text.RegularExpressions;

namespace EvenThimble.Equipment;

/// <summary>Files that belong together: one for each hooping of a job, numbered in their names, such as "banner 1of2".</summary>
/// <param name="Name">What their names have in common.</param>
/// <param name="Of">How many there should be.</param>
/// <param name="Files">By number, from 1, the name of the file; null where it is missing.</param>
public sealed partial record FileSet(string Name, int Of, IReadOnlyList<string?> Files)
{
    private const int Most = 99;

    /// <summary>The numbers of those that are missing.</summary>
    public IReadOnlyList<int> Missing => [.. Files.Select((f, n) => (f, n)).Where(f => f.f is null).Select(f => f.n + 1)];

    /// <summary>The sets among file names; a set has two files at least, whether they are there or not.</summary>
    public static IReadOnlyList<FileSet> Among(IEnumerable<string> fileNames) =>
    [
        .. fileNames.Select(name => (Name: name, Match: Numbered().Match(name))).Where(f => f.Match.Success)
            .Select(f => (f.Name, Stem: f.Match.Groups[1].Value, Number: Number(f.Match.Groups[2]), Of: Number(f.Match.Groups[3]), Ending: f.Match.Groups[4].Value))
            .Where(f => f.Of is > 1 and <= Most && f.Number >= 1 && f.Number <= f.Of)
            .GroupBy(f => (f.Stem, f.Of, Ending: f.Ending.ToUpperInvariant()))
            .Select(g => new FileSet(g.Key.Stem, g.Key.Of, [.. Enumerable.Range(1, g.Key.Of).Select(n => g.Where(f => f.Number == n).Select(f => f.Name).FirstOrDefault())])),
    ];

    [GeneratedRegex(@"^(.+) (\d{1,2})of(\d{1,2})(\.[^.]+)$", RegexOptions.CultureInvariant)]
    private static partial Regex Numbered();

    private static int Number(Group digits) => int.Parse(digits.ValueSpan, CultureInfo.InvariantCulture);
}
