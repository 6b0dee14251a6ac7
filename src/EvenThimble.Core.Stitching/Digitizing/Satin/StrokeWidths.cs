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

    // A bend is one that turns by as much as this (radians) over half a width: less is the unevenness of a straight line.
    private const double LeastBend = 0.03;

    // A throw that reaches farther to the inner side of a bend than so many half widths reaches no farther than so many times what room there is aslant of it, looked at in these directions, degrees.
    private const double FarReach = 1.6;
    private const double MostReach = 1.3;
    private static readonly double[] Aslant = [15, 30, 45, 60];

    // Where a tucked end flares out into what it joins, as serifs do, a side goes along by so much for each mm.
    private const double MostFlare = 1.0;

    // So far before the outline a stroke ends within the area, beside another one, mm.
    private const double Inside = 0.8;
    private readonly Stroke _stroke;
    private readonly StrokeMiddle _middle;
    private readonly Walls _walls;
    private readonly Side _left;
    private readonly Side _right;

    /// <summary>One side, by even places along the middle.</summary>
    /// <param name="Reach">How far the stroke reaches, mm.</param>
    /// <param name="Wall">How far the outline lies, mm.</param>
    private sealed record Side(double[] Reach, double[] Wall)
    {
        private readonly bool[] _joined = new bool[Reach.Length];

        // Where the stroke reaches less far than this before the outline, a junction holds it back, mm.
        private const double Held = 0.02;

        public int Count => Reach.Length;

        /// <summary>Notes that another stroke goes on from a place, by its number.</summary>
        public void Join(int place) => _joined[place] = true;

        /// <summary>Whether another stroke goes on at a part of the length.</summary>
        public bool IsJoined(double part) => _joined[(int)Math.Round(Math.Clamp(part, 0, 1) * (Count - 1))];

        /// <summary>How far it reaches at a part of the length, and whether the outline alone says so.</summary>
        public (double Reach, bool ToWall) At(double part)
        {
            var place = Math.Clamp(part, 0, 1) * (Count - 1);
            var i = Math.Min((int)place, Count - 2);
            return (Reach[i] + ((Reach[i + 1] - Reach[i]) * (place - i)), Reach[i] > Wall[i] - Held && Reach[i + 1] > Wall[i + 1] - Held);
        }
    }

    public StrokeWidths(Stroke stroke, StrokeMiddle middle, Walls outline)
    {
        (_stroke, _middle, _walls) = (stroke, middle, outline);
        var count = Math.Max(2, (int)Math.Ceiling(Length / Step)) + 1;
        (_left, _right) = (Reaches(count, 1), Reaches(count, -1));
        foreach (var crossing in Crossings())
        {
            Widen(_left, crossing);
            Widen(_right, crossing);
        }

        if (stroke.Closed) return;

        // A mitre says how far throws reach.
        if (stroke.Start is { Reach: > 0, Mitres.Count: 0 } start) Narrow(start, (int)Math.Floor(middle.ProlongedBefore / Length * (count - 1)), 1);
        if (stroke.End is { Reach: > 0, Mitres.Count: 0 } end) Narrow(end, (int)Math.Ceiling((Length - middle.ProlongedAfter) / Length * (count - 1)), -1);
    }

    private double Length => _middle.Line.Length;

    /// <summary>How far it reaches to the left and right at a place along it, mm, and at which sides that is not to the outline but to where, in a junction, other strokes go on.</summary>
    /// <param name="at">How far along, mm.</param>
    /// <param name="middle">The place there.</param>
    /// <param name="across">The direction to the left, of length one.</param>
    public (double Left, double Right, Sides Inner) At(double at, Point middle, Point across)
    {
        var ((left, leftInner), (right, rightInner)) = (Met(_left, across), Met(_right, across * -1));
        return (left, right, (leftInner ? Sides.Left : Sides.None) | (rightInner ? Sides.Right : Sides.None));

        // The outline itself, where no junction says less, is met exactly.
        (double Reach, bool IsInner) Met(Side side, Point across)
        {
            var part = Length < 1e-9 ? 0 : at / Length;
            var (reach, toWall) = side.At(part);
            var wall = _walls.Leave(middle, across);
            return toWall && wall < reach * 1.25 ? (wall.Value, false) : (reach, wall > reach + Inside && side.IsJoined(part));
        }
    }

    /// <summary>How far it reaches to one side (1: left), by its own ground.</summary>
    private Side Reaches(int count, int side)
    {
        var (reaches, walls) = (new double[count], new double[count]);
        for (var i = 0; i < count; i++)
        {
            WorkBudget.Current.Spend(2);
            var at = Length * i / (count - 1);
            var (place, aside) = (_middle.Line.PointAt(at), _middle.DirectionAt(at).Normal() * side);
            walls[i] = _walls.Leave(place, aside) ?? 0;
            reaches[i] = _stroke.Reach(walls[i], place, aside);
            if (reaches[i] > FarReach * _middle.Half && _middle.BendAt(at) * side * _middle.Half < -LeastBend) reaches[i] = Math.Min(reaches[i], MostReach * RoomAslant(place, aside, Math.Min(at, Length - at)));
        }

        return new(reaches, walls);
    }

    /// <summary>How far the outline lies aslant of a throw, mm: where it would go on past an inner corner and along a stroke there is little room. Near an end, which is near on one of its sides, the other tells.</summary>
    private double RoomAslant(Point from, Point direction, double fromEnd)
    {
        var (one, other) = (Room(1), Room(-1));
        return _stroke.Closed || fromEnd > FarReach * _middle.Half ? Math.Min(one, other) : Math.Max(one, other);

        double Room(int side) => Aslant.Min(degrees => _walls.Leave(from, direction.Turned(side * degrees, Point.Zero)) ?? double.PositiveInfinity);
    }

    /// <summary>In a junction that it runs through a stroke is at least as wide as between the places before and behind where it is undisturbed.</summary>
    private void Widen(Side side, Crossing crossing)
    {
        var step = Length / (side.Count - 1);
        var (before, after) = (Calm(side.Reach, (int)Math.Floor(crossing.From / step), -1), Calm(side.Reach, (int)Math.Ceiling(crossing.To / step), 1));
        for (var i = Math.Max(0, before.Index); i <= Math.Min(side.Count - 1, after.Index); i++)
        {
            var t = after.Index == before.Index ? 0 : (i - before.Index) / (double)(after.Index - before.Index);
            side.Join(i);
            side.Reach[i] = Math.Min(side.Wall[i], Math.Max(side.Reach[i], before.Reach + ((after.Reach - before.Reach) * t)));
        }
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
    private void Narrow(Side side, int begins, int away, bool flares)
    {
        var step = Length / (side.Count - 1);
        var (calm, reach) = Calm(side.Reach, begins, away);
        for (var i = calm - away; i >= 0 && i < side.Count; i -= away)
        {
            if ((begins - i) * away >= 0) side.Join(i);
            side.Reach[i] = Math.Min(side.Reach[i], flares ? side.Reach[i + away] + (MostFlare * step) : reach);
        }
    }

    /// <summary>Where a side is undisturbed, from a place on away from a junction: there it goes on as it does farther off, be that even or widening.</summary>
    private (int Index, double Reach) Calm(double[] side, int from, int way)
    {
        var step = Length / (side.Length - 1);
        var (window, most) = (Math.Max(2, Places(0.5)), Places(MostDisturbed));
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

        // A stroke far shorter than it is wide has few of them.
        int Places(double halves) => (int)Math.Min(halves * _middle.Half / step, side.Length);
    }
}
