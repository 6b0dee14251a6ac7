using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// How far a stroke reaches to both sides of its middle: to the outline; in a junction, where the outline opens, no farther than before and behind it.
/// </summary>
internal sealed class StrokeWidths
{
    private const double Step = 0.25;

    // Before a junction a side counts as undisturbed where it widens by hardly more (so much for each mm) than a little farther off; that is looked for over so many half widths.
    private const double Undisturbed = 0.2;
    private const double MostDisturbed = 3.0;

    // Where a tucked end flares out into what it joins, as serifs do, a side goes along by so much for each mm.
    private const double MostFlare = 1.0;
    private readonly Stroke _stroke;
    private readonly StrokeMiddle _middle;
    private readonly Walls _walls;
    private readonly double[] _left;
    private readonly double[] _right;

    public StrokeWidths(Stroke stroke, StrokeMiddle middle, Walls outline)
    {
        (_stroke, _middle, _walls) = (stroke, middle, outline);
        var count = Math.Max(2, (int)Math.Ceiling(Length / Step)) + 1;
        (_left, _right) = (Reaches(count, 1), Reaches(count, -1));
        foreach (var (crossing, flares) in Crossings())
        {
            if (crossing.Opens.HasFlag(Sides.Left)) Narrow(_left, crossing, flares);
            if (crossing.Opens.HasFlag(Sides.Right)) Narrow(_right, crossing, flares);
        }
    }

    private double Length => _middle.Line.Length;

    /// <summary>How far it reaches to the left and right at a place along it, mm.</summary>
    /// <param name="at">How far along, mm.</param>
    /// <param name="middle">The place there.</param>
    /// <param name="across">The direction to the left, of length one.</param>
    public (double Left, double Right) At(double at, Point middle, Point across)
    {
        return (Met(_left, across), Met(_right, across * -1));

        // The outline itself, where no junction says less, is met exactly.
        double Met(double[] side, Point across) => Read(side, at / Length) is var reach && _walls.Leave(middle, across) is { } wall && wall < reach * 1.25 ? wall : reach;
    }

    /// <summary>By even places along the middle: how far the outline lies to one side (1: left), mm.</summary>
    private double[] Reaches(int count, int side)
    {
        var reaches = new double[count];
        for (var i = 0; i < count; i++)
        {
            WorkBudget.Current.Spend(2);
            var at = Length * i / (count - 1);
            reaches[i] = _walls.Leave(_middle.Line.PointAt(at), _middle.DirectionAt(at).Normal() * side) ?? 0;
        }

        return reaches;
    }

    /// <summary>Junctions along the middle as it is now, those in which it ends included.</summary>
    public IEnumerable<(Crossing Crossing, bool Flares)> Crossings()
    {
        // What was found in the rough line lies at the same part of the smooth one.
        var rough = Polylines.Length(_stroke.Middle);
        var smooth = Length - _middle.ProlongedBefore - _middle.ProlongedAfter;
        var scale = rough < 1e-9 ? 1 : smooth / rough;
        foreach (var (from, to, opens) in _stroke.Crossings) yield return (new(_middle.ProlongedBefore + (from * scale), _middle.ProlongedBefore + (to * scale), opens), false);
        if (_stroke.Closed) yield break;

        // A mitre says how far throws reach.
        if (_stroke.Start is { Reach: > 0, Mitres.Count: 0 } start) yield return (new(double.NegativeInfinity, _middle.ProlongedBefore, start.Opens), start.Tucks);
        if (_stroke.End is { Reach: > 0, Mitres.Count: 0 } end) yield return (new(Length - _middle.ProlongedAfter, double.PositiveInfinity, end.Opens), end.Tucks);
    }

    /// <summary>In a junction a side reaches no farther than it does before and behind, where the stroke is undisturbed.</summary>
    private void Narrow(double[] side, Crossing crossing, bool flares)
    {
        var (step, n) = (Length / (side.Length - 1), side.Length);
        var before = double.IsNegativeInfinity(crossing.From) ? ((int Index, double Reach)?)null : Calm(side, (int)Math.Floor(crossing.From / step), -1);
        var after = double.IsPositiveInfinity(crossing.To) ? ((int Index, double Reach)?)null : Calm(side, (int)Math.Ceiling(crossing.To / step), 1);
        if (before is null && after is null) return;
        var (b, a) = (before ?? (0, after!.Value.Reach), after ?? (n - 1, before!.Value.Reach));
        for (var k = 0; k <= Math.Min(n - 1, a.Index) - Math.Max(0, b.Index); k++)
        {
            // From the undisturbed side on.
            var i = before is null ? a.Index - k : b.Index + k;
            var t = a.Index <= b.Index ? 0 : (i - b.Index) / (double)(a.Index - b.Index);
            var most = b.Reach + ((a.Reach - b.Reach) * t);
            if (flares) most = k == 0 ? side[i] : side[before is null ? i + 1 : i - 1] + (MostFlare * step);
            side[i] = Math.Min(side[i], most);
        }
    }

    /// <summary>Where a side is undisturbed, from a place on away from a junction: there it goes on as it does farther off, be that even or widening.</summary>
    private (int Index, double Reach) Calm(double[] side, int from, int way)
    {
        var step = Length / (side.Length - 1);
        var (window, most) = (Math.Max(2, (int)(0.5 * _middle.Half / step)), (int)(MostDisturbed * _middle.Half / step));
        from = Math.Clamp(from, 0, side.Length - 1);
        var (least, calmest) = (double.PositiveInfinity, from);
        for (var k = 0; k <= most; k++)
        {
            var (i, further, farthest) = (from + (way * k), from + (way * (k + window)), from + (way * (k + (2 * window))));
            if (farthest < 0 || farthest >= side.Length) break;
            var opening = (side[i] - (2 * side[further]) + side[farthest]) / (window * step);
            if (opening < least) (least, calmest) = (opening, i);
            if (opening <= Undisturbed) break;
        }

        return (calmest, Math.Max(side[calmest], 0.1));
    }

    private static double Read(double[] side, double part)
    {
        var place = Math.Clamp(part, 0, 1) * (side.Length - 1);
        var i = Math.Min((int)place, side.Length - 2);
        return side[i] + ((side[i + 1] - side[i]) * (place - i));
    }
}
