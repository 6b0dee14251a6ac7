using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// How far a stroke reaches to both sides of its middle: to the outline, or in a junction to where other arms leave it; in one that it ends in no farther than before.
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
        if (stroke.Closed) return;

        // A mitre says how far throws reach.
        if (stroke.Start is { Reach: > 0, Mitres.Count: 0 } start) Narrow(start, (int)Math.Floor(middle.ProlongedBefore / Length * (count - 1)), 1);
        if (stroke.End is { Reach: > 0, Mitres.Count: 0 } end) Narrow(end, (int)Math.Ceiling((Length - middle.ProlongedAfter) / Length * (count - 1)), -1);
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
        double Met(double[] side, Point across) => Read(side, at / Length) is var reach && _stroke.Reach(_walls, middle, across) is { } wall && wall < reach * 1.25 ? wall : reach;
    }

    /// <summary>By even places along the middle: how far the outline lies to one side (1: left), mm.</summary>
    private double[] Reaches(int count, int side)
    {
        var reaches = new double[count];
        for (var i = 0; i < count; i++)
        {
            WorkBudget.Current.Spend(2);
            var at = Length * i / (count - 1);
            reaches[i] = _stroke.Reach(_walls, _middle.Line.PointAt(at), _middle.DirectionAt(at).Normal() * side) ?? 0;
        }

        return reaches;
    }

    /// <summary>Junctions that it runs through, along the middle as it is now.</summary>
    public IEnumerable<Crossing> Crossings()
    {
        // What was found in the rough line lies at the same part of the smooth one.
        var rough = Polylines.Length(_stroke.Middle);
        var smooth = Length - _middle.ProlongedBefore - _middle.ProlongedAfter;
        var scale = rough < 1e-9 ? 1 : smooth / rough;
        return _stroke.Crossings.Select(c => c with { From = _middle.ProlongedBefore + (c.From * scale), To = _middle.ProlongedBefore + (c.To * scale) });
    }

    /// <summary>In a junction that it ends in, a side that opens reaches no farther than before it, where the stroke is undisturbed.</summary>
    private void Narrow(StrokeEnd end, int begins, int away)
    {
        if (end.Opens.HasFlag(Sides.Left)) Narrow(_left, begins, away, end.Tucks);
        if (end.Opens.HasFlag(Sides.Right)) Narrow(_right, begins, away, end.Tucks);
    }

    /// <summary>Narrows one side, from where it is undisturbed to its end.</summary>
    /// <param name="side">The side.</param>
    /// <param name="begins">Where the junction begins.</param>
    /// <param name="away">The way that leads out of it: 1 or -1.</param>
    /// <param name="flares">Whether the stroke may widen into what it joins.</param>
    private void Narrow(double[] side, int begins, int away, bool flares)
    {
        var step = Length / (side.Length - 1);
        var (calm, reach) = Calm(side, begins, away);
        for (var i = calm - away; i >= 0 && i < side.Length; i -= away)
            side[i] = Math.Min(side[i], flares ? side[i + away] + (MostFlare * step) : reach);
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
