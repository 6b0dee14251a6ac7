using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>A place where a stroke is thrown across, from edge to edge, and how far along the stroke it lies (mm).</summary>
internal readonly record struct Rung(double At, Point Left, Point Right, Point Middle)
{
    public double Width => Left.DistanceTo(Right);
}

/// <summary>A stroke that is ready to be sewn: its middle line from end to end and its rungs at the satin's spacing.</summary>
internal sealed class StrokeRungs
{
    // Beyond the mouth by which a stroke joins another it goes on a little, so that no gap opens when the cloth is pulled.
    private const double LeastOverlap = 0.6;
    private const double MostOverlap = 1.6;
    private const double OverlapOfWidth = 0.3;
    private const double MitreOverlap = 0.1;
    private const double MitreReach = 2.5;
    private const double Step = 0.25;
    private const int LookAhead = 3;
    private readonly Walls _walls;
    private readonly Walls _beyond;
    private double _half = 0.5;
    private double _overlapBefore;
    private double _overlapAfter;
    private readonly double[] _along;

    private StrokeRungs(Stroke stroke, double spacing)
    {
        _walls = new(stroke.Walls);
        _beyond = ReferenceEquals(stroke.Walls, stroke.Beyond) ? _walls : new(stroke.Beyond);
        Closed = stroke.Closed;
        Middle = Prolonged(Smooth(stroke), stroke);
        _along = new double[Middle.Length];
        for (var i = 1; i < Middle.Length; i++) _along[i] = _along[i - 1] + Middle[i].DistanceTo(Middle[i - 1]);
        Rungs = Cut(Throw(spacing), stroke);
    }

    public bool Closed { get; }

    /// <summary>The middle line; in a ring the last point is the first.</summary>
    public Point[] Middle { get; }

    public double Length => _along[^1];

    public List<Rung> Rungs { get; }

    /// <summary>Rungs of a stroke, <paramref name="spacing"/> mm apart at the outer edge of a bend.</summary>
    public static StrokeRungs Of(Stroke stroke, double spacing) => new(stroke, spacing);

    /// <summary>The place of the middle line at a distance along it.</summary>
    public Point PointAt(double at)
    {
        var i = Segment(at);
        var step = _along[i + 1] - _along[i];
        return Middle[i].Toward(Middle[i + 1], step < 1e-12 ? 0 : Math.Clamp((at - _along[i]) / step, 0, 1));
    }

    /// <summary>How far along the place of the middle line lies that is nearest to a place.</summary>
    public double Nearest(Point place)
    {
        var (best, nearest) = (0.0, double.PositiveInfinity);
        for (var i = 0; i + 1 < Middle.Length; i++)
        {
            var d = Middle[i + 1] - Middle[i];
            var t = Math.Clamp((place - Middle[i]).Dot(d) / Math.Max(d.Dot(d), 1e-12), 0, 1);
            var distance = Middle[i].Toward(Middle[i + 1], t).DistanceTo(place);
            if (distance < nearest) (best, nearest) = (_along[i] + (t * d.Length), distance);
        }

        return best;
    }

    /// <summary>The middle line between two distances along it, from the first to the second.</summary>
    public List<Point> Between(double from, double to)
    {
        var line = new List<Point> { PointAt(from) };
        if (from <= to)
        {
            for (var i = 0; i < Middle.Length; i++)
                if (_along[i] > from && _along[i] < to)
                    line.Add(Middle[i]);
        }
        else
        {
            for (var i = Middle.Length - 1; i >= 0; i--)
                if (_along[i] < from && _along[i] > to)
                    line.Add(Middle[i]);
        }

        line.Add(PointAt(to));
        return line;
    }

    private int Segment(double at)
    {
        var i = Array.BinarySearch(_along, at);
        if (i < 0) i = ~i - 1;
        return Math.Clamp(i, 0, _along.Length - 2);
    }

    /// <summary>The middle line without the jags of its triangles: each point becomes the mean of those about half a width around it.</summary>
    private Point[] Smooth(Stroke stroke)
    {
        var rough = stroke.Middle;
        if (stroke.Closed) rough = [.. rough, rough[0]];
        var length = Polylines.Length(rough);
        if (length < 1e-6) return [rough[0], rough[0] + new Point(1e-3, 0)];
        var n = Math.Max(2, (int)Math.Ceiling(length / Step));
        var points = Polylines.Divided(rough, n);
        _half = HalfWidth(points);
        var reach = (int)Math.Ceiling(Math.Clamp(_half, 0.3, 6) / Step * 0.8);

        // On tight ground a smoother line would cut across the wall: then it is smoothed less.
        for (; reach > 1; reach /= 2)
            if (Smoothed(points, stroke.Closed, reach) is var smooth && !Crosses(smooth))
                return smooth;
        return Smoothed(points, stroke.Closed, 1);
    }

    private bool Crosses(Point[] line)
    {
        for (var i = 0; i + 1 < line.Length; i += LookAhead)
        {
            var step = line[Math.Min(i + LookAhead, line.Length - 1)] - line[i];
            if (step.Length > 1e-9 && _walls.Hit(line[i], step.Unit()) is { } wall && wall < step.Length - 1e-6) return true;
        }

        return false;
    }

    private static Point[] Smoothed(Point[] points, bool closed, int reach)
    {
        var n = points.Length - 1;
        for (var round = 0; round < 3; round++)
        {
            var smooth = new Point[points.Length];
            WorkBudget.Current.Spend(points.Length * (1 + (reach / 4)));
            for (var i = 0; i <= n; i++)
            {
                // Less and less towards an open end, so that it stays where it is.
                var r = closed ? Math.Min(reach, n / 3) : Math.Min(reach, Math.Min(i, n - i));
                var sum = Point.Zero;
                for (var k = -r; k <= r; k++) sum += points[closed ? (((i + k) % n) + n) % n : i + k];
                smooth[i] = sum / ((2 * r) + 1);
            }

            if (closed) smooth[n] = smooth[0];
            points = smooth;
        }

        return points;
    }

    /// <summary>Half the usual distance from a middle line to the nearer wall on either side, mm.</summary>
    private double HalfWidth(Point[] line)
    {
        var widths = new List<double>();
        for (var i = 1; i < line.Length; i += Math.Max(1, line.Length / 24))
        {
            var across = (line[i] - line[i - 1]).Unit().Normal();
            if (across != Point.Zero && _walls.Hit(line[i], across) is { } l && _walls.Hit(line[i], across * -1) is { } r) widths.Add((l + r) / 2);
        }

        widths.Sort();
        return widths.Count == 0 ? 0.5 : widths[widths.Count / 2];
    }

    /// <summary>Free and mitred ends are taken straight on to the wall; joined ones a little beyond their mouth.</summary>
    private Point[] Prolonged(Point[] line, Stroke stroke)
    {
        if (stroke.Closed) return line;
        var overlap = Math.Clamp(2 * _half * OverlapOfWidth, LeastOverlap, MostOverlap);
        (_overlapBefore, _overlapAfter) = (Joined(stroke.Start) ? overlap : 0, Joined(stroke.End) ? overlap : 0);
        return [.. Onwards(line[0], Tangent(line, atStart: true), _overlapBefore).Reverse(), .. line, .. Onwards(line[^1], Tangent(line, atStart: false), _overlapAfter)];

        static bool Joined(StrokeEnd end) => !end.IsFree && end.Mitre is null;
    }

    private IEnumerable<Point> Onwards(Point end, Point direction, double overlap)
    {
        var by = overlap > 0 ? Math.Min(overlap, (_beyond.Hit(end, direction) ?? overlap) - 0.1) : Math.Max(0, (_walls.Hit(end, direction) ?? 0) - 0.02);
        var steps = Math.Max(1, (int)Math.Ceiling(by / Step));
        return by < 0.01 ? [] : Enumerable.Range(1, steps).Select(i => end + (direction * (by * i / steps)));
    }

    private Point Tangent(Point[] line, bool atStart)
    {
        var look = Math.Min(line.Length - 1, Math.Max(2, (int)(_half / Step)));
        return atStart ? (line[0] - line[look]).Unit() : (line[^1] - line[^(look + 1)]).Unit();
    }

    private List<Rung> Throw(double spacing)
    {
        var rungs = new List<Rung>();
        double at = 0;
        var last = Length;
        var before = default(Rung?);
        while (at <= last + 1e-9)
        {
            WorkBudget.Current.Spend(4);
            var (direction, bend) = DirectionAt(at);
            var middle = PointAt(at);
            var rung = RungAt(at, middle, direction);
            if (rung is { } r)
            {
                rungs.Add(r);
                before = r;
            }

            var outer = before is { } w ? (bend > 0 ? w.Middle.DistanceTo(w.Left) : w.Middle.DistanceTo(w.Right)) : 0;
            at += Math.Max(spacing / (1 + (Math.Abs(bend) * outer)), 0.06);
        }

        if (rungs.Count > 0 && !Closed && last - rungs[^1].At > 0.05 && RungAt(last, PointAt(last), DirectionAt(last).Direction) is { } end) rungs.Add(end);
        return rungs;
    }

    /// <summary>At a mitred end throws reach only a little over the cut; the middle line goes no farther than the cut either, for there the needle changes over.</summary>
    private static List<Rung> Cut(List<Rung> rungs, Stroke stroke)
    {
        var last = rungs.Count == 0 ? 0 : rungs[^1].At;
        foreach (var (mitre, end) in new[] { (stroke.Start.Mitre, 0.0), (stroke.End.Mitre, last) })
        {
            if (mitre is not { } m) continue;
            var cut = new List<Rung>(rungs.Count);
            foreach (var r in rungs)
            {
                // The stroke may come past its own corner again, far from its end.
                if (Math.Abs(r.At - end) > MitreReach * r.Width)
                {
                    cut.Add(r);
                    continue;
                }

                var (l, o) = ((r.Left - m.At).Dot(m.Own) + MitreOverlap, (r.Right - m.At).Dot(m.Own) + MitreOverlap);
                if (l <= 0 && o <= 0) continue;
                cut.Add(l >= 0 && o >= 0 ? r : l < 0 ? r with { Left = r.Left.Toward(r.Right, l / (l - o)) } : r with { Right = r.Right.Toward(r.Left, o / (o - l)) });
            }

            rungs = cut;
        }

        return rungs;
    }

    private Rung? RungAt(double at, Point middle, Point direction)
    {
        var across = direction.Normal();
        if (at < _overlapBefore || at > Length - _overlapAfter)
        {
            // On the other stroke's ground, as wide as at the mouth.
            var inside = PointAt(Math.Min(Math.Max(at, _overlapBefore), Math.Max(_overlapBefore, Length - _overlapAfter)));
            return Ends(_beyond, middle, _walls.Hit(inside, across) ?? 0, _walls.Hit(inside, across * -1) ?? 0);
        }

        return Ends(_walls, middle, double.PositiveInfinity, double.PositiveInfinity);

        Rung? Ends(Walls walls, Point from, double mostLeft, double mostRight) =>
            walls.Hit(from, across) is { } left && walls.Hit(from, across * -1) is { } right
                ? new Rung(at, from + (across * Math.Min(left, mostLeft)), from - (across * Math.Min(right, mostRight)), from)
                : null;
    }

    /// <summary>Direction of the middle line, and how it bends (1/mm; above 0 where the left side is the outer one).</summary>
    private (Point Direction, double Bend) DirectionAt(double at)
    {
        const double look = 0.5;
        var (a, b, c) = (Around(at - look), PointAt(at), Around(at + look));
        var direction = (c - a).Unit();
        var (u, v) = ((b - a).Unit(), (c - b).Unit());
        var bend = Math.Asin(Math.Clamp(u.Cross(v), -1, 1)) / look;
        return (direction == Point.Zero ? new(1, 0) : direction, bend);
    }

    private Point Around(double at)
    {
        if (Closed) return PointAt(((at % Length) + Length) % Length);
        if (at < 0) return PointAt(0) + ((PointAt(0) - PointAt(Math.Min(0.5, Length))).Unit() * -at);
        if (at > Length) return PointAt(Length) + ((PointAt(Length) - PointAt(Math.Max(0, Length - 0.5))).Unit() * (at - Length));
        return PointAt(at);
    }
}
