using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>How well stitches of any making are read, and what is wrong with them at another size, by measures that know nothing of how they are read or made.</summary>
internal static class MakingMeasures
{
    private const double PileReach = 0.3;
    private const int MostInPile = 8;

    /// <summary>Which part of the stitches, ties and what is covered aside, is called sure and is not what it ought to be, and which is not sure, 0 to 1.</summary>
    public static (double WrongAndSure, double NotSure) Reading(Makings.Sample sample, StitchBlob stitches)
    {
        var seen = ReadStitches.Of(stitches).Passages.Where(p => p.Kind != PassageKind.Tie && !p.IsUnder).ToList();
        var all = (double)Math.Max(1, seen.Sum(p => p.Stitches));
        return (seen.Where(p => p.Confidence >= Passage.Sure && !IsRight(sample.Truth, p)).Sum(p => p.Stitches) / all, seen.Where(p => p.Confidence < Passage.Sure).Sum(p => p.Stitches) / all);
    }

    /// <summary>Throws with needle points in them and rows that run on the slant are the same, so either is right.</summary>
    public static bool IsRight(Makings.Truth truth, Passage p) => truth switch
    {
        Makings.Truth.Line => !p.HasSpacing,
        Makings.Truth.Satin => p.Kind == PassageKind.Satin || (p.Kind == PassageKind.Fill && !p.Stepped),
        Makings.Truth.Fill => p.Kind == PassageKind.Fill,
        _ => p.Kind is PassageKind.Satin or PassageKind.Run,
    };

    /// <summary>What is wrong with stitches at a size against the same drawn larger or smaller.</summary>
    /// <param name="Density">Thread for the area against what it was; 1 is right for rows and throws.</param>
    /// <param name="Spike">How far thread lies from where the drawing has some, beyond half its gaps, mm.</param>
    /// <param name="Lost">How far the drawing lies from any thread, beyond half the gaps, mm.</param>
    /// <param name="Piles">Places with more needle points than a pile may have where the drawing has no such pile.</param>
    /// <param name="Hole">Largest bare place inside what was closed, mm².</param>
    public sealed record Faults(double Density, double Spike, double Lost, int Piles, double Hole);

    public static Faults At(StitchBlob was, double gap, double across, double down, double lighter = 1)
    {
        var made = Respacer.Make(ReadStitches.Of(was), new(across, down), new() { SpacingTimes = lighter == 1 ? null : lighter });
        var drawn = Scaled(was, across, down);
        var box = drawn.BoundsOf(0, drawn.Count);
        box = new(box.MinX - 3, box.MinY - 3, box.MaxX + 3, box.MaxY + 3);
        var size = Math.Max(across, down);
        var half = gap * size / 2;
        var (before, after) = (Thin(drawn, box), Thin(made, box));
        var columns = StitchLook.ColumnsOf(box);
        var (spike, lost) = (Farthest(after, before, columns) - half, Farthest(before, after, columns) - (gap * Math.Max(1, lighter) / 2));
        return new(StitchLook.Thread(made) / StitchLook.Thread(was) / (across * down) * lighter, Math.Max(0, spike), Math.Max(0, lost), Piles(made, drawn), Hole(was, made, box, across, down, gap * Math.Max(1, lighter)));
    }

    /// <summary>The stitches drawn at a size.</summary>
    public static StitchBlob Scaled(StitchBlob blob, double across, double down)
    {
        var builder = new StitchBuilder(blob.Count);
        for (var i = 0; i < blob.Count; i++) builder.Add(blob.Kinds[i], new(blob.At(i).X * across, blob.At(i).Y * down));
        return builder.ToBlob();
    }

    private static bool[] Thin(StitchBlob blob, Box box) => Array.ConvertAll(StitchLook.Picture(blob, box, extra: -0.25), p => p < 200);

    private static double Farthest(bool[] of, bool[] from, int columns)
    {
        const double upTo = 2.5;
        return StitchLook.Nearest(from, columns, upTo, of).Max();
    }

    /// <summary>Needle points about which more than a pile's lie nearer than its reach, ties aside, and that have no pile in the drawing either.</summary>
    private static int Piles(StitchBlob made, StitchBlob drawn)
    {
        var (now, was) = (Points(made), Points(drawn));
        var (nearNow, nearWas) = (Cells(now), Cells(was));
        return now.Count(p => About(nearNow, p, PileReach) > MostInPile && About(nearWas, p, 3 * PileReach) <= MostInPile) / (MostInPile + 1);
    }

    private static List<Point> Points(StitchBlob blob) => [.. Enumerable.Range(0, blob.Count).Where(i => blob.Kinds[i] == StitchKind.Stitch).Select(blob.At)];

    private static ILookup<(int, int), Point> Cells(List<Point> points) => points.ToLookup(p => ((int)Math.Floor(p.X), (int)Math.Floor(p.Y)));

    private static int About(ILookup<(int, int), Point> cells, Point p, double reach)
    {
        var count = 0;
        for (var x = -1; x <= 1; x++)
            for (var y = -1; y <= 1; y++)
                count += cells[((int)Math.Floor(p.X) + x, (int)Math.Floor(p.Y) + y)].Count(q => q.DistanceTo(p) <= reach);
        return count;
    }

    /// <summary>The largest place that lies well inside what is closed when the thread is drawn as far apart as it is allowed, and is bare now, mm².</summary>
    public static double Hole(StitchBlob was, StitchBlob made, Box box, double across, double down, double gap)
    {
        var size = Math.Max(across, down);
        var columns = StitchLook.ColumnsOf(box);
        var drawn = StitchLook.Picture(Scaled(was, across, down), box, extra: (gap * size * 1.15) - 0.4);
        var sewn = StitchLook.Picture(made, box, extra: (gap * 1.15) - 0.4);
        var toOpen = StitchLook.Nearest(Array.ConvertAll(drawn, p => p > 100), columns, (gap * size) + 0.5, Array.ConvertAll(sewn, p => p > 200));
        var open = Array.ConvertAll(toOpen, d => d > (gap * size / 2) + 0.2);
        var largest = 0;
        for (var i = 0; i < open.Length; i++)
        {
            if (!open[i]) continue;
            var patch = new List<int> { i };
            open[i] = false;
            for (var k = 0; k < patch.Count; k++)
                foreach (var n in new[] { patch[k] - 1, patch[k] + 1, patch[k] - columns, patch[k] + columns })
                    if (n >= 0 && n < open.Length && open[n])
                    {
                        open[n] = false;
                        patch.Add(n);
                    }

            largest = Math.Max(largest, patch.Count);
        }

        return largest / (StitchLook.PixelsPerMm * StitchLook.PixelsPerMm);
    }
}
