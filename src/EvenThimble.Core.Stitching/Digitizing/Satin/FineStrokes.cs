using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Strokes too fine for satin, whose throws would lie more along them than across: they are drawn in two lines side by side that cover their breadth, out and back.
/// </summary>
internal static class FineStrokes
{
    // Lengths of throws, with what compensation adds. Where three of four are shorter than the first, all are drawn that are shorter than the second; mm.
    // Elsewhere only what cannot be thrown at all is drawn.
    private const double BroadOfFine = 1.17;
    private const double LongestOfFine = 1.2;

    // A stroke that cannot be thrown here and there is drawn also where it is a little broader, up to this length of a throw, mm.
    private const double LongestOfHairline = 1.1;

    // What could be thrown is not drawn for less than the one length between throws, nor for less than the other from an end of the stroke on; and beside what is drawn it is not thrown for less than the third, mm.
    private const double ShortestDrawn = 1.2;
    private const double ShortestFromEnd = 0.8;
    private const double ShortestThrown = 1.6;

    // Unless it is broader than this somewhere, mm: there two lines would leave much bare.
    private const double MostDrawn = 1.4;

    // A line that is drawn covers so much to its side for sure, and lies no farther from the middle than so, for the two to close, mm.
    private const double LineCovers = 0.12;
    private const double MostAside = 0.195;

    // What two lines cover at the most, mm.
    private const double MostWidth = (2 * MostAside) + Limits.ThreadWidth;

    // Places along a stroke that are no farther apart are the same, mm.
    private const double Same = 1e-6;

    /// <summary>Decides what of strokes is drawn, as the broad ones of their text ask for or those among themselves.</summary>
    public static void Draw(IReadOnlyList<StrokeRungs> strokes, SatinStyle style)
    {
        var longer = 2 * style.CompensationMm;
        var isFine = (style.BroadStroke ?? Broad(strokes)) + longer < BroadOfFine;
        foreach (var stroke in strokes)
        {
            var rungs = stroke.Rungs;
            var least = rungs.ConvertAll(r => r.Width + longer < SatinThrows.Narrowest);
            var drawn = isFine ? Drawn(rungs, strokes.Count == 1, r => IsUpTo(LongestOfFine, r)) : Unbroken(rungs, least, r => IsUpTo(LongestOfHairline, r));
            for (var i = 0; i < rungs.Count; i++)
            {
                if (!drawn[i] && !least[i]) continue;

                // On cloth that swallows thread the lines lie farther apart, as throws are longer there.
                var aside = Math.Clamp((rungs[i].Width / 2) - LineCovers + Math.Max(0, style.CompensationMm - Limits.PullCompensation), 0, MostAside);
                rungs[i] = rungs[i] with { Aside = (rungs[i].Left - rungs[i].Right).Unit() * aside };
            }
        }

        bool IsUpTo(double longest, Rung rung) => rung.Width + longer < longest && rung.Width <= MostWidth;
    }

    /// <summary>The way along a stroke from one place to another, in parts: along the middle, and where it is drawn along the one of its two lines on which the needle goes out.</summary>
    public static IEnumerable<(List<Point> Line, bool IsDrawn)> Way(StrokeRungs stroke, double from, double to)
    {
        var (rungs, low, high, at) = (stroke.Rungs, Math.Min(from, to), Math.Max(from, to), from);
        var drawn = Enumerable.Range(0, rungs.Count).Where(i => rungs[i].Aside is not null && rungs[i].At >= low - Same && rungs[i].At <= high + Same).ToList();
        if (from > to) drawn.Reverse();
        for (var i = 0; i < drawn.Count;)
        {
            var end = i + 1;
            while (end < drawn.Count && Math.Abs(drawn[end] - drawn[end - 1]) == 1) end++;
            if (Math.Abs(rungs[drawn[i]].At - at) > Same) yield return (stroke.Line.Between(at, rungs[drawn[i]].At), false);
            yield return (drawn[i..end].ConvertAll(k => rungs[k].Out), true);
            (at, i) = (rungs[drawn[end - 1]].At, end);
        }

        if (Math.Abs(at - to) > Same || drawn.Count == 0) yield return (stroke.Line.Between(at, to), false);
    }

    /// <summary>Whether any of a stroke between two places is drawn.</summary>
    public static bool IsDrawn(StrokeRungs stroke, double from, double to) => stroke.Rungs.Exists(r => r.Aside is not null && r.At >= Math.Min(from, to) - Same && r.At <= Math.Max(from, to) + Same);

    /// <summary>The width that three of four throws do not reach, mm.</summary>
    private static double Broad(IReadOnlyList<StrokeRungs> strokes)
    {
        var widths = strokes.SelectMany(s => s.Rungs).Select(r => r.Width).Order().ToList();
        return widths.Count == 0 ? double.PositiveInfinity : widths[widths.Count * 3 / 4];
    }

    /// <summary>
    /// Which rungs are drawn of those that are fine: without short stretches among throws, and with short ones of throws among what is drawn, or joined to it, which would look like knots on a line. A short stroke that
    /// stands alone is a dot.
    /// </summary>
    private static List<bool> Drawn(List<Rung> rungs, bool isAlone, Func<Rung, bool> isFine)
    {
        var drawn = rungs.ConvertAll(r => isFine(r));
        foreach (var (first, last) in Stretches(drawn, of: true))
            if (rungs[last].At - rungs[first].At < (first == 0 || last == rungs.Count - 1 ? ShortestFromEnd : ShortestDrawn))
                Fill(drawn, first, last, false);
        foreach (var (first, last) in Stretches(drawn, of: false))
            if ((last - first + 1 < rungs.Count || !isAlone) && rungs[last].At - rungs[first].At < ShortestThrown && rungs[first..(last + 1)].TrueForAll(r => r.Width < MostDrawn))
                Fill(drawn, first, last, true);
        return drawn;
    }

    /// <summary>A hairline of uneven breadth is drawn as a whole: what could just be thrown between two stretches that cannot, or between one and an end, would look like a knot.</summary>
    private static List<bool> Unbroken(List<Rung> rungs, List<bool> least, Predicate<Rung> isFine)
    {
        var drawn = new List<bool>(least);
        foreach (var (first, last) in Stretches(least, of: false))
            if (last - first + 1 < least.Count && rungs[first..(last + 1)].TrueForAll(isFine))
                Fill(drawn, first, last, true);
        return drawn;
    }

    private static void Fill(List<bool> drawn, int first, int last, bool isDrawn)
    {
        for (var k = first; k <= last; k++) drawn[k] = isDrawn;
    }

    /// <summary>The first and the last of each stretch of a value.</summary>
    private static List<(int First, int Last)> Stretches(List<bool> values, bool of)
    {
        var stretches = new List<(int First, int Last)>();
        for (var i = 0; i < values.Count; i++)
        {
            if (values[i] != of) continue;
            if (stretches is [.., var last] && last.Last == i - 1) stretches[^1] = (last.First, i);
            else stretches.Add((i, i));
        }

        return stretches;
    }
}
