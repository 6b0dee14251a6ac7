using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// The middle of a stroke as it is sewn: smooth, straight on to the edge at free ends, through the junction at ends that tuck under others. Rungs lie square to it, but turn evenly into the cut
/// of a slanted end.
/// </summary>
internal sealed class StrokeMiddle
{
    /// <summary>Throws of a mitred or starred end reach so far over the cut, mm.</summary>
    public const double MitreOverlap = 0.1;
    private const double Step = 0.25;
    private const int LookAhead = 3;

    // The last throw lies this far inside the end.
    private const double InsideEnd = 0.08;

    // A free end is taken on straight from so many half widths before the end that was found, or more where only there the line is steady (degrees).
    private const double Veering = 0.8;
    private const double MostVeering = 3.2;
    private const double Steady = 4;

    // Taken on straight, it reaches at least this part of how far it went.
    private const double StillOn = 0.7;

    // The far edge of a junction lies no farther than so many times as far as its ground reaches; beyond it an arm leads on the same way that turns by less than so many degrees.
    private const double FarBeyond = 1.5;
    private const double SameWay = 22;

    // Along the bisector of a corner the axis is straight too, but there is less and less room: at least this part of half the width is wanted.
    private const double StillWide = 0.85;

    // The way over which rungs turn into a cut, a radian, in parts of how far the cut reaches aside; less and they would cross.
    private const double TurningWay = 2.1;
    private const double LeastSlant = 0.3 * Math.PI / 180;

    // An end follows the edge when it turns by no more than this to do so, degrees.
    private const double MostFromEdge = 40;

    private readonly Stroke _stroke;
    private readonly Walls _walls;
    private readonly (double Slant, double Way) _startCut;
    private readonly (double Slant, double Way) _endCut;
    private readonly EdgeTurn _edges;

    public StrokeMiddle(Stroke stroke, Walls outline, Terminals terminals)
    {
        (_stroke, _walls) = (stroke, outline);
        var line = Smooth();
        if (!stroke.Closed)
        {
            (line, _endCut, ProlongedAfter) = TakenOn(line, stroke.End, terminals, isStart: false);
            Array.Reverse(line);

            // Left and right are seen the other way round from the start, and so is the slant.
            (line, _startCut, ProlongedBefore) = TakenOn(line, stroke.Start, terminals, isStart: true);
            Array.Reverse(line);
        }

        Line = new(line);
        _edges = EdgeTurn.Of(stroke, Line, Along, outline, Half, ProlongedBefore, ProlongedAfter);
    }

    /// <summary>From end to end; in a ring the last point is the first.</summary>
    public MeasuredLine Line { get; }

    /// <summary>Half the usual width, mm.</summary>
    public double Half { get; private set; } = 0.5;

    /// <summary>How much of the beginning lies beyond the line as it was found, in a junction, mm.</summary>
    public double ProlongedBefore { get; }

    /// <summary>The same of the end.</summary>
    public double ProlongedAfter { get; }

    /// <summary>Direction that rungs lie square to: that of the middle line, turned towards a cut where an end has one.</summary>
    public Point DirectionAt(double at)
    {
        var direction = Along(at);
        var (start, end) = (Turning(_startCut, at), Turning(_endCut, Line.Length - at));
        var turn = (_edges.At(at) * (1 - start) * (1 - end)) + (_startCut.Slant * start) + (_endCut.Slant * end);
        return turn == 0 ? direction : direction.Turned(turn * 180 / Math.PI, Point.Zero);
    }

    /// <summary>The direction of the middle line itself, of length one, so far along it, mm.</summary>
    public Point Along(double at)
    {
        const double look = 0.5;
        var direction = (Around(at + look) - Around(at - look)).Unit();
        return direction == Point.Zero ? new(1, 0) : direction;
    }

    /// <summary>By how much rungs turn at a place along it, radians a mm: above 0 with their left ends on the outer side.</summary>
    public double BendAt(double at)
    {
        const double look = 0.1;
        return Math.Asin(Math.Clamp(DirectionAt(at).Cross(DirectionAt(at + look)), -1, 1)) / look;
    }

    /// <summary>How far rungs have turned into a cut so far from it: 1 when they lie in it.</summary>
    private static double Turning((double Slant, double Way) cut, double fromEnd)
    {
        if (cut.Way <= 0 || fromEnd >= cut.Way) return 0;
        var t = 1 - (Math.Max(0, fromEnd) / cut.Way);
        return t * t * (3 - (2 * t));
    }

    private Point Around(double at)
    {
        if (_stroke.Closed) return Line.PointAt(((at % Line.Length) + Line.Length) % Line.Length);
        if (at < 0) return Line.PointAt(0) + ((Line.PointAt(0) - Line.PointAt(Math.Min(0.5, Line.Length))).Unit() * -at);
        if (at > Line.Length) return Line.PointAt(Line.Length) + ((Line.PointAt(Line.Length) - Line.PointAt(Math.Max(0, Line.Length - 0.5))).Unit() * (at - Line.Length));
        return Line.PointAt(at);
    }

    /// <summary>The middle line without the jags of its triangles: each point becomes the mean of those about half a width around it.</summary>
    private Point[] Smooth()
    {
        var rough = _stroke.Middle;
        if (_stroke.Closed) rough = [.. rough, rough[0]];
        var length = Polylines.Length(rough);
        if (length < 1e-6) return [rough[0], rough[0] + new Point(1e-3, 0)];
        var n = Math.Max(2, (int)Math.Ceiling(length / Step));
        var points = Polylines.Divided(rough, n);
        Half = HalfWidth(points);
        var reach = (int)Math.Ceiling(Math.Clamp(Half, 0.3, 6) / Step * 0.8);

        // On tight ground a smoother line would cut across the wall: then it is smoothed less.
        for (; reach > 1; reach /= 2)
            if (Smoothed(points, _stroke.Closed, reach) is var smooth && !Crosses(smooth))
                return smooth;
        return Smoothed(points, _stroke.Closed, 1);
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

    /// <summary>Half the usual distance from a middle line to the walls on both sides, mm; where it runs through junctions the walls tell nothing.</summary>
    private double HalfWidth(Point[] line)
    {
        var widths = new List<(double Width, bool Counts)>();
        var scale = Polylines.Length(_stroke.Middle) / (line.Length - 1);
        for (var i = 1; i < line.Length; i += Math.Max(1, line.Length / 48))
        {
            var across = (line[i] - line[i - 1]).Unit().Normal();
            if (across != Point.Zero && _walls.Leave(line[i], across) is { } l && _walls.Leave(line[i], across * -1) is { } r)
                widths.Add(((_stroke.Reach(l, line[i], across) + _stroke.Reach(r, line[i], across * -1)) / 2, !_stroke.Crossings.Any(c => i * scale > c.From && i * scale < c.To)));
        }

        var counting = widths.Exists(w => w.Counts) ? widths.FindAll(w => w.Counts) : widths;
        return counting.Count == 0 ? 0.5 : counting.Select(w => w.Width).Order().ElementAt(counting.Count / 2);
    }

    /// <summary>Free and mitred ends are taken straight on to the wall, or to their cut; those that tuck under others through the junction.</summary>
    private (Point[] Line, (double Slant, double Way) Cut, double By) TakenOn(Point[] line, StrokeEnd end, Terminals terminals, bool isStart)
    {
        var (kept, ahead) = end is { IsFree: true, Reach: 0 } ? WithoutVeering(line) : (line, Tangent(line));
        var from = kept[^1];
        if (end is { IsFree: true, Opens: Sides.Left or Sides.Right }) ahead = AlongTheEdge(from, ahead, end.Opens, isStart);
        var wall = _walls.Leave(from, ahead) ?? 0;
        if (end.Tucks) return (Onwards(kept, ahead, Math.Min(end.Reach, wall - InsideEnd)), default, Math.Max(0, Math.Min(end.Reach, wall - InsideEnd)));

        // What keeps the ground of a junction ends at its far edge; where that is the mouth of an arm that leads on the same way, the wall lies far beyond, across the ground of that.
        if (end is { IsFree: true, Reach: > 0 } && wall > (FarBeyond * end.Reach) + Half && end.Mouths.Any(LeadsOn)) wall = end.Reach;
        if (end.Mitres.Count > 1) wall = Math.Min(wall, Math.Max(0, (end.Mitres[0].At - from).Dot(ahead)) + MitreOverlap);
        if (end.IsFree && terminals.Cut(from, ahead, from + (ahead * wall), Half) is var (left, right))
        {
            var (slant, across) = (Terminals.Slant(ahead.Normal(), left, right), (left - right).Unit());
            var by = (left - from).Cross(across) / ahead.Cross(across);
            if (by > InsideEnd && by < wall + Half)
            {
                var reach = Math.Max(Math.Abs((left - from).Cross(ahead)), Math.Abs((right - from).Cross(ahead)));
                var cut = Math.Abs(slant) < LeastSlant ? default : (slant, Math.Min((TurningWay * Math.Abs(slant) * reach) + 0.2, 0.45 * Polylines.Length(line)));
                return (Onwards(kept, ahead, Math.Min(by, wall) - InsideEnd), cut, end.Reach > 0 ? by : 0);
            }
        }

        return (Onwards(kept, ahead, wall - InsideEnd), default, end.Reach > 0 ? wall : 0);

        bool LeadsOn(Mouth mouth) => mouth.Hit(from, ahead) is not null && (mouth.B - mouth.A).Unit().Cross(ahead) is var square && Math.Abs(square) > Math.Cos(SameWay * Math.PI / 180);
    }

    /// <summary>Through a junction that opens on one side a stroke goes on along its other edge.</summary>
    private Point AlongTheEdge(Point from, Point ahead, Sides opens, bool isStart)
    {
        // Sides are seen along the stroke; at its start the line is looked at the other way.
        var edge = opens == Sides.Left != isStart ? ahead.Normal() * -1 : ahead.Normal();
        if (_walls.Meet(from, edge) is not { } wall) return ahead;
        var along = wall.Along.Dot(ahead) < 0 ? wall.Along * -1 : wall.Along;
        return along.Dot(ahead) > Math.Cos(MostFromEdge * Math.PI / 180) ? along : ahead;
    }

    /// <summary>The axis veers into the corners of a free end: the line without that, and the way on from there, if it can go straight on as far as it went: as its edges do where they are straight beside it, else as it goes itself.</summary>
    private (Point[] Line, Point Ahead) WithoutVeering(Point[] line)
    {
        for (var halves = Veering; halves <= MostVeering; halves += Veering)
        {
            var (cut, more) = ((int)(halves * Half / Step), (int)((halves + Veering) * Half / Step));
            if (line.Length - more < 4) break;
            var (kept, before) = (line[..^cut], line[..^more]);
            if (EdgeTurn.AlongBoth(_walls, kept[^1], Tangent(kept), Half) is { } edges && EdgeTurn.AlongBoth(_walls, before[^1], edges, Half) is { } inner && IsSteady(edges, inner) && GoesOn(edges, (line[^1] - kept[^1]).Dot(edges))) return (kept, edges);
            if (Room(kept[^1]) >= StillWide * Half && Tangent(kept) is var ahead && IsSteady(ahead, Tangent(before)) && GoesOn(ahead, cut * Step)) return (kept, ahead);

            bool GoesOn(Point way, double by) => (_walls.Leave(kept[^1], way) ?? 0) > StillOn * by;
        }

        var usual = (int)(Veering * Half / Step);
        var left = line.Length > 2.5 * usual ? line[..^usual] : line;
        return (left, Tangent(left));

        static bool IsSteady(Point ahead, Point before) => ahead.Dot(before) >= Math.Cos(Steady * Math.PI / 180);
    }

    /// <summary>How far the nearest wall is, looked for in sixteen directions, mm.</summary>
    private double Room(Point place) => Enumerable.Range(0, 16).Min(i => _walls.Leave(place, new Point(1, 0).Turned(i * 22.5, Point.Zero)) ?? 0);

    private static Point[] Onwards(Point[] line, Point direction, double by)
    {
        var steps = Math.Max(1, (int)Math.Ceiling(by / Step));
        return by < 0.01 ? line : [.. line, .. Enumerable.Range(1, steps).Select(i => line[^1] + (direction * (by * i / steps)))];
    }

    private Point Tangent(Point[] line)
    {
        var look = Math.Min(line.Length - 1, Math.Max(2, (int)(1.5 * Half / Step)));
        return (line[^1] - line[^(look + 1)]).Unit();
    }
}
