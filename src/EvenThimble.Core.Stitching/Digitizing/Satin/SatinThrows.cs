using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How satin is thrown.</summary>
/// <param name="SpacingMm">Between needle points on one side, mm.</param>
/// <param name="CompensationMm">By how much throws are lengthened at each end, mm.</param>
public sealed record SatinStyle(double SpacingMm = Limits.SatinSpacing, double CompensationMm = Limits.PullCompensation)
{
    // Throws that are wanted farther apart than this do not mean to close what lies between them, mm.
    private const double ClosesUpTo = 0.6;

    /// <summary>Whether throws are to lie so close that no cloth is seen between them.</summary>
    public bool Closes => SpacingMm <= ClosesUpTo;

    /// <summary>Throws longer than this are split, mm.</summary>
    public double LongestThrow { get; init; } = Limits.LongestThrow;

    /// <summary>How wide the broad strokes are of the text that an area is a letter of, mm: what is drawn and what is thrown is decided for a text once. Null: by the strokes of the area itself.</summary>
    public double? BroadStroke { get; init; }

    /// <summary>By which part of the spacing throws of the narrowest strokes lie farther apart: there the needle comes back to each edge after little thread, which closes it sooner.</summary>
    public double NarrowLooser { get; init; }

    /// <summary>Whether throws are as long beside a stroke that tucks under them as they are elsewhere: what follows a line keeps its width.</summary>
    public bool KeepsWidth { get; init; }

    /// <summary>What is sewn underneath.</summary>
    public IReadOnlyList<Underlay> Underlay { get; init; } = [];
}

/// <summary>Needle points of throws from side to side.</summary>
internal static class SatinThrows
{
    // Where the needle would fall closer than a part of the spacing to one of so many before, a throw stops short of the inner edge, after one of these parts of its length.
    // A long throw that stops short leaves a gap that is seen: there the needle may fall closer. So much for throws up to the one length, so much from the other on, mm.
    private static readonly (double Length, double Part) CrowdedShort = (1.0, 0.85);
    private static readonly (double Length, double Part) CrowdedLong = (3.6, 0.6);
    private const int Remembered = 8;
    private static readonly double[] Reaches = [1, 0.86, 0.74, 0.63, 0.53];

    // A throw does not stop short where the slot that opens between its neighbours would be as large as this, mm²; unless the needle would fall as close as this part of the spacing.
    private const double MostSlot = 0.08;
    private const double Pierced = 0.28;

    /// <summary>Throws narrower than this become a run along the middle, mm.</summary>
    public const double Narrowest = 0.8;

    private const double NarrowStitch = 1.0;
    private const double MostStraying = 0.04;

    // Split points lie at these parts of a piece away from its middle in turn, so that they form no line.
    private static readonly double[] Stagger = [0, 0.2, -0.2, 0.1, -0.1];

    /// <summary>Appends throws across rungs, in their order; each goes from left to right.</summary>
    public static void Add(List<Point> run, IReadOnlyList<Rung> rungs, SatinStyle style)
    {
        var (passed, thrown) = (new List<Point>(), run.Count);
        var ends = rungs.Select(r => Compensated(style.KeepsWidth ? r with { Inner = Sides.None } : r, style.CompensationMm)).ToArray();
        for (var i = 0; i < rungs.Count;)
        {
            if (IsDrawn(i))
            {
                AlongMiddle(run, rungs[i].Aside is null ? ends[i].Left.Toward(ends[i].Right, 0.5) : rungs[i].Back, passed, 2 * i, style.LongestThrow);
                i++;
                continue;
            }

            // What is drawn reaches up to the first throw.
            End(run, passed, thrown, style.LongestThrow);
            passed.Clear();
            var first = i;
            while (i < rungs.Count && !IsDrawn(i)) i++;
            Uncrowd(ends, first, i, rungs, style);
            for (var k = first; k < i; k++)
            {
                Throw(run, ends[k].Left, (2 * k) + 0, style.LongestThrow);
                Throw(run, ends[k].Right, (2 * k) + 1, style.LongestThrow);
            }

            thrown = run.Count;
        }

        if (passed.Count > 0) Throw(run, passed[^1], 0, style.LongestThrow);

        // Too narrow for a throw.
        bool IsDrawn(int i) => rungs[i].Aside is not null || ends[i].Left.DistanceTo(ends[i].Right) < Narrowest;
    }

    /// <summary>Throws beside each other stop short where they would crowd each other.</summary>
    private static void Uncrowd((Point Left, Point Right)[] ends, int first, int end, IReadOnlyList<Rung> rungs, SatinStyle style)
    {
        var (lefts, rights) = (new Edge(style.SpacingMm), new Edge(style.SpacingMm));

        // The last of all lies along the end, which it has to close.
        for (var i = first; i < Math.Min(end, rungs.Count - 1); i++)
        {
            var (left, right) = ends[i];
            left = lefts.Clear(left, right, rungs[i + 1].Left, rungs[i + 1].Right);
            ends[i] = (left, rights.Clear(right, left, rungs[i + 1].Right, rungs[i + 1].Left));
        }

        FannedThrows.Shorten(ends.AsSpan(first, end - first), style.SpacingMm);
    }

    /// <summary>
    /// The ends of a throw, lengthened for the cloth that it pulls together. What lies under another stroke is not seen and needs no more than that; where another tucks under it there is no gap to
    /// close, and it is lengthened only as far as a throw needs to be.
    /// </summary>
    private static (Point Left, Point Right) Compensated(Rung rung, double longer)
    {
        var (left, right) = (Ends(Sides.Left), Ends(Sides.Right));
        var inner = (left.IsInner ? 1 : 0) + (right.IsInner ? 1 : 0);
        var needed = inner == 0 ? 0 : Math.Clamp((Narrowest - rung.Width - left.By - right.By) / inner, 0, longer);
        var along = (rung.Right - rung.Left).Unit();
        return (rung.Left - (along * (left.IsInner ? needed : left.By)), rung.Right + (along * (right.IsInner ? needed : right.By)));

        (double By, bool IsInner) Ends(Sides side) => rung.Tucked.HasFlag(side) ? (0, false) : rung.Inner.HasFlag(side) ? (0, true) : (longer, false);
    }

    /// <summary>Goes on along a way that is seen, to its end, in stitches that keep to its bends.</summary>
    public static void Draw(List<Point> run, IReadOnlyList<Point> way, double longest)
    {
        var passed = new List<Point>();
        foreach (var place in way) AlongMiddle(run, place, passed, 0, longest);
        End(run, passed, 1, longest);
    }

    /// <summary>Goes on to the last of what was passed; where that is too near for a stitch of its own, the last needle point moves there, unless it is one of so many that stay.</summary>
    private static void End(List<Point> run, List<Point> passed, int stay, double longest)
    {
        if (passed.Count == 0) return;
        if (run.Count > Math.Max(1, stay) && run[^1].DistanceTo(passed[^1]) < Limits.ShortestStitch && run[^2].DistanceTo(passed[^1]) >= Limits.ShortestStitch) run[^1] = passed[^1];
        else Throw(run, passed[^1], 0, longest);
    }

    /// <summary>Goes on along the middle of what is too narrow for throws, in stitches that keep to its bends; <paramref name="passed"/> are the middles since the last needle point.</summary>
    private static void AlongMiddle(List<Point> run, Point middle, List<Point> passed, int number, double longest)
    {
        if (run.Count == 0 || run[^1].DistanceTo(middle) >= NarrowStitch || Strays(run[^1], middle, passed))
        {
            var to = passed is [.., var last] && run.Count > 0 && run[^1].DistanceTo(last) >= Limits.ShortestStitch ? last : middle;
            Throw(run, to, number, longest);
            if (run[^1] == to) passed.Clear();
        }

        passed.Add(middle);
    }

    /// <summary>Whether a stitch would leave what it passes by more than the thread hides.</summary>
    private static bool Strays(Point from, Point to, List<Point> passed)
    {
        var along = (to - from).Unit();
        return passed.Exists(p => Math.Abs(along.Cross(p - from)) > MostStraying);
    }

    /// <summary>One edge of a stroke as it is sewn: on the inside of a bend the needle would fall into the same place again and again, so a throw stops short where its end is clear of the last ones.</summary>
    private sealed class Edge(double spacing)
    {
        private readonly Queue<Point> _last = new();
        private (Point End, Point Other)? _full;

        /// <summary>Where a throw ends.</summary>
        /// <param name="end">Where it would.</param>
        /// <param name="other">Its other end.</param>
        /// <param name="next">Where the next one would.</param>
        /// <param name="nextOther">The other end of that.</param>
        public Point Clear(Point end, Point other, Point next, Point nextOther)
        {
            var length = end.DistanceTo(other);
            var longness = Math.Clamp((length - CrowdedShort.Length) / (CrowdedLong.Length - CrowdedShort.Length), 0, 1);
            var crowded = spacing * (CrowdedShort.Part + ((CrowdedLong.Part - CrowdedShort.Part) * longness));
            var (best, clearest) = (end, -1.0);
            foreach (var reach in Reaches)
            {
                var place = other.Toward(end, reach);
                if (reach < 1 && clearest > Pierced * spacing && (1 - reach) * length * Between(place) > MostSlot) break;
                var clear = _last.Count == 0 ? double.PositiveInfinity : _last.Min(p => p.DistanceTo(place));
                if (clear > clearest) (best, clearest) = (place, clear);
                if (clear >= crowded) break;
            }

            if (best == end) _full = (end, other);
            _last.Enqueue(best);
            if (_last.Count > Remembered) _last.Dequeue();
            return best;

            // How wide the slot would be: from the last whole throw to the next one's end, or to this one's where throws fan out from one place.
            double Between(Point place) =>
                _full is { } whole ? Math.Max(whole.End.DistanceTo(next), place.DistanceToLine(whole.End, whole.Other) - Limits.ThreadWidth) - Limits.ThreadWidth : double.PositiveInfinity;
        }
    }

    /// <summary>Appends one throw to a needle point; a long one is split, each where its number says, so that the split points form no line.</summary>
    public static void Throw(List<Point> run, Point to, int number, double longest)
    {
        if (run.Count > 0)
        {
            var from = run[^1];
            var length = from.DistanceTo(to);
            if (length < Limits.ShortestStitch) return;
            var pieces = (int)Math.Ceiling(length * (length > longest ? 1 + Stagger.Max() : 1) / longest);
            for (var s = 1; s < pieces; s++) run.Add(from.Toward(to, (s + Stagger[number / 2 % Stagger.Length]) / pieces));
        }

        run.Add(to);
    }

    public static void Append(List<Point> run, Point to, double least = Limits.ShortestStitch)
    {
        if (run.Count > 0 && run[^1].DistanceTo(to) < least) return;
        run.Add(to);
    }
}
