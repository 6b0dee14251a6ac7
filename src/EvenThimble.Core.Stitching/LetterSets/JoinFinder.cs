namespace EvenThimble.Core.LetterSets;

/// <summary>Finds whether the small letters of an alphabet join, as those of a script do: most of them begin and end in something thin at one height over the baseline.</summary>
internal static class JoinFinder
{
    // How much of a small letter's height is thin, how near the heights are to each other, and how many letters must be so.
    private const double ThinOfSmall = 0.4;
    private const double DepthOfSmall = 0.06;
    private const double SameOfSmall = 0.1;
    private const double LeastJoining = 0.6;
    private const int LeastLetters = 4;

    // Letters are moved onto their joint by no more than this part of a small letter's height.
    private const double MostMoved = 0.15;

    /// <summary>The height over the baseline at which letters join, mm; null: they don't.</summary>
    public static double? HeightOf(IReadOnlyCollection<SetLetter> letters, double smallMm)
    {
        var ends = Small(letters).SelectMany(l => new[] { End(l, right: true, smallMm), End(l, right: false, smallMm) }).ToList();
        if (ends.Count < 2 * LeastLetters) return null;
        var thin = ends.Where(e => e.Thin).Select(e => e.AboveMm).Order().ToList();
        if (thin.Count < LeastJoining * ends.Count) return null;
        var height = thin[thin.Count / 2];
        return ends.Count(e => IsAt(e, height, smallMm)) >= LeastJoining * ends.Count ? height : null;
    }

    /// <summary>Letters put so that their joints are at one height: where files have no baseline in common, that is surer than their feet.</summary>
    public static IReadOnlyList<SetLetter> Aligned(IReadOnlyList<SetLetter> letters, double smallMm)
    {
        if (HeightOf(letters, smallMm) is not { } height) return letters;
        return
        [
            .. letters.Select(l =>
            {
                if (!IsSmall(l)) return l;
                var off = new[] { End(l, right: true, smallMm), End(l, right: false, smallMm) }.Where(e => e.Thin && Math.Abs(e.AboveMm - height) <= MostMoved * smallMm).Select(e => e.AboveMm - height).ToList();
                return off.Count == 0 ? l : l with { BaselineY = l.BaselineY - off.Average() };
            }),
        ];
    }

    /// <summary>Whether a letter ends on one side in something thin at a height.</summary>
    public static bool EndsAt(SetLetter letter, bool right, double height, double smallMm) => IsAt(End(letter, right, smallMm), height, smallMm);

    /// <summary>Whether a letter is a small one.</summary>
    public static bool IsSmall(SetLetter letter) => letter.Character is [>= 'a' and <= 'z'];

    private static IEnumerable<SetLetter> Small(IEnumerable<SetLetter> letters) => letters.Where(IsSmall);

    private static bool IsAt((double AboveMm, bool Thin) end, double height, double smallMm) => end.Thin && Math.Abs(end.AboveMm - height) <= SameOfSmall * smallMm;

    /// <summary>How a letter ends on one side: at which height over the baseline, and whether in something thin.</summary>
    private static (double AboveMm, bool Thin) End(SetLetter letter, bool right, double smallMm)
    {
        var (y, height) = letter.Ink.Reaching(right, DepthOfSmall * smallMm);
        return (letter.BaselineY - y, height <= ThinOfSmall * smallMm);
    }
}
