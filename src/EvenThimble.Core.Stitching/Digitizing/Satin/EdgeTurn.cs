using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// By how much throws turn away from square to the middle line so that they lie square to the edges beside it. Along an even stroke the middle runs as its edges do; where a foot or a serif widens it
/// on one side, the middle runs aslant from corner to corner, and in a short black letter does so for its whole length, while a hand would go on throwing square to the edges.
/// </summary>
internal sealed class EdgeTurn
{
    // Edges are looked at so often in half a width, but no closer than this (mm), and what is found is the median over half a width to both sides.
    private const double LooksInHalf = 4;
    private const double LeastStep = 0.25;

    // Edges that lie farther away than so many half widths, or turn from each other or from the middle by more than these, say nothing. Degrees.
    private const double Beside = 2.6;
    private const double MostApart = 40;
    private const double MostTurned = 50;

    // Up to the first nothing is turned, from the second on all of it; and never more than the third. Degrees.
    private const double Begins = 4;
    private const double Whole = 9;
    private const double Most = 35;

    // Over half a width it turns by no more than this, radians: else throws would cross.
    private const double MostTurnInHalf = 0.5;

    // A stroke narrower than this is left as it is: it is drawn, or its throws are so short that nothing is seen of it. Half of the width, mm.
    private const double Narrow = 0.4;

    // Edges that go the same way differ by no more than this, degrees.
    private const double Parallel = 12;

    private const double Degree = Math.PI / 180;
    private static readonly EdgeTurn None = new([0], 1);

    private readonly double[] _turns;
    private readonly double _step;

    private EdgeTurn(double[] turns, double step) => (_turns, _step) = (turns, step);

    /// <summary>What the edges of a stroke ask for.</summary>
    /// <param name="stroke">The stroke.</param>
    /// <param name="line">Its middle as it is sewn.</param>
    /// <param name="directionAt">The direction of that at a place along it.</param>
    /// <param name="walls">The outlines of its area.</param>
    /// <param name="half">Half its usual width, mm.</param>
    /// <param name="before">How much of its beginning lies in a junction, mm.</param>
    /// <param name="after">The same of its end.</param>
    public static EdgeTurn Of(Stroke stroke, MeasuredLine line, Func<double, Point> directionAt, Walls walls, double half, double before, double after)
    {
        if (half < Narrow || stroke.Closed) return None;
        var count = Math.Max(3, (int)Math.Ceiling(line.Length / Math.Max(LeastStep, half / LooksInHalf)));
        var step = line.Length / (count - 1);
        var (places, directions, angles) = (new Point[count], new Point[count], new double[count]);
        for (var i = 0; i < count; i++) (places[i], directions[i]) = (line.PointAt(i * step), directionAt(i * step));
        for (var i = 1; i < count; i++) angles[i] = angles[i - 1] + Between(directions[i - 1], directions[i]);
        WorkBudget.Current.Spend(4 * count);

        var (from, to) = (stroke.Start.Tucks ? before + half : 0, stroke.End.Tucks ? line.Length - after - half : line.Length);
        var turns = new double[count];
        var reach = Math.Max(1, (int)(half / step));
        for (var round = 0; round < 2; round++)
        {
            var asked = new double?[count];
            for (var i = 0; i < count; i++) asked[i] = i * step >= from && i * step <= to ? Asked(places[i], directions[i], turns[i]) : null;

            // Most strokes run as their edges do.
            if (!Array.Exists(asked, a => Math.Abs(a ?? 0) > Begins * Degree)) return None;
            turns = Even(asked, angles, reach);
        }

        for (var i = 0; i < count; i++) turns[i] = Weighed(turns[i]);
        Slope(turns, angles, MostTurnInHalf / half * step);
        return new(turns, step);

        // The turn to square to both edges, radians; null where a junction or the end of the stroke leaves no two edges beside it.
        double? Asked(Point place, Point direction, double turn)
        {
            var across = direction.Turned(turn / Degree, Point.Zero).Normal();
            if (Edge(place, across, direction) is not { } left || Edge(place, across * -1, direction) is not { } right) return null;
            if (left.Dot(right) < Math.Cos(MostApart * Degree)) return null;
            return Between(direction, left + right);
        }

        Point? Edge(Point place, Point across, Point direction) =>
            EdgeTurn.Edge(walls, place, across, direction, half) is var (distance, along) && stroke.Reach(distance, place, across) >= distance ? along : null;
    }

    /// <summary>The way that two straight edges go beside a place; null where they are none or do not go the same way.</summary>
    /// <param name="walls">The edges.</param>
    /// <param name="place">A place between them.</param>
    /// <param name="direction">About the way that is looked for.</param>
    /// <param name="half">About half their distance, mm.</param>
    public static Point? AlongBoth(Walls walls, Point place, Point direction, double half)
    {
        for (var look = 0; look < 2; look++)
        {
            if (Edge(walls, place, direction.Normal(), direction, half) is not var (_, left) || Edge(walls, place, direction.Normal() * -1, direction, half) is not var (_, right) || left.Dot(right) < Math.Cos(Parallel * Degree)) return null;
            direction = (left + right).Unit();
        }

        return direction;
    }

    /// <summary>The turn so far along the middle (mm), radians.</summary>
    public double At(double at)
    {
        var place = Math.Clamp(at / _step, 0, _turns.Length - 1);
        var i = Math.Min((int)place, _turns.Length - 2);
        return i < 0 ? _turns[0] : _turns[i] + ((_turns[i + 1] - _turns[i]) * (place - i));
    }

    /// <summary>The nearest edge to one side: how far it is (mm), and which way it goes, about in a direction.</summary>
    private static (double Distance, Point Along)? Edge(Walls walls, Point place, Point across, Point direction, double half)
    {
        if (walls.Meet(place, across) is not var (distance, along) || across.Cross(along) <= 0 || distance > Beside * half) return null;
        if (along.Dot(direction) < 0) along *= -1;
        return along.Dot(direction) < Math.Cos(MostTurned * Degree) ? null : (distance, along);
    }

    /// <summary>The angle from a direction to another, radians.</summary>
    private static double Between(Point direction, Point other) => Math.Atan2(direction.Cross(other), direction.Dot(other));

    /// <summary>
    /// Of each place the median of the turns that are asked for around it, then the mean of those, radians; or of the angles to which they lead, where these are steadier: along straight edges, whatever
    /// the middle does between them. Where nothing is asked for, what is so on both sides.
    /// </summary>
    private static double[] Even(double?[] asked, double[] angles, int reach)
    {
        var (turns, isStraight) = (new double?[asked.Length], new bool[asked.Length]);
        Span<double> asks = stackalloc double[(2 * reach) + 1], leads = stackalloc double[(2 * reach) + 1];
        for (var i = 0; i < asked.Length; i++)
        {
            var (r, found) = (Within(i, reach), 0);
            for (var k = i - r; k <= i + r; k++)
                if (asked[k] is { } turn)
                    (asks[found], leads[found++]) = (turn, angles[k] + turn);
            if (found <= r) continue;
            var (asksFor, unsteady) = Middle(asks[..found]);
            var (leadsTo, bent) = Middle(leads[..found]);
            (turns[i], isStraight[i]) = bent < unsteady ? (leadsTo - angles[i], true) : (asksFor, false);
        }

        Fill(turns);
        var even = new double[asked.Length];
        for (var i = 0; i < even.Length; i++)
        {
            var r = Within(i, Math.Max(1, reach / 2));
            for (var k = i - r; k <= i + r; k++) even[i] += ((turns[k] ?? 0) + (isStraight[i] ? angles[k] - angles[i] : 0)) / ((2 * r) + 1);
        }

        return even;

        int Within(int i, int reach) => Math.Min(reach, Math.Min(i, asked.Length - 1 - i));
    }

    /// <summary>The median of values, and the median of how far they are off it.</summary>
    private static (double Median, double Off) Middle(Span<double> values)
    {
        values.Sort();
        var median = values[values.Length / 2];
        foreach (ref var v in values) v = Math.Abs(v - median);
        values.Sort();
        return (median, values[values.Length / 2]);
    }

    /// <summary>Sets what is not known as it is on both sides, or on the one where it is known.</summary>
    private static void Fill(double?[] values)
    {
        var before = -1;
        for (var i = 0; i <= values.Length; i++)
        {
            if (i < values.Length && values[i] is null) continue;
            for (var k = before + 1; k < i; k++)
                values[k] = (before < 0, i == values.Length) switch
                {
                    (true, true) => 0,
                    (true, false) => values[i],
                    (false, true) => values[before],
                    _ => values[before] + ((values[i] - values[before]) * (k - before) / (i - before)),
                };
            before = i;
        }
    }

    /// <summary>As much of a turn as is made.</summary>
    private static double Weighed(double turn)
    {
        var t = Math.Clamp(((Math.Abs(turn) / Degree) - Begins) / (Whole - Begins), 0, 1);
        return Math.Clamp(turn, -Most * Degree, Most * Degree) * t * t * (3 - (2 * t));
    }

    /// <summary>Takes away from turns what is too much beside the next.</summary>
    private static void Slope(double[] turns, double[] angles, double most)
    {
        for (var i = 1; i < turns.Length; i++) turns[i] = Limited(turns[i], turns[i - 1], angles[i] - angles[i - 1]);
        for (var i = turns.Length - 2; i >= 0; i--) turns[i] = Limited(turns[i], turns[i + 1], angles[i] - angles[i + 1]);

        double Limited(double turn, double beside, double bend) => Math.Clamp(turn, Math.Min(beside, 0) - most - Math.Abs(bend), Math.Max(beside, 0) + most + Math.Abs(bend));
    }
}
