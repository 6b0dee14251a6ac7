using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>A place where a stroke is thrown across, from edge to edge, and how far along the stroke it lies (mm). At tucked sides it ends under another stroke.</summary>
internal readonly record struct Rung(double At, Point Left, Point Right, Point Middle, Sides Tucked = Sides.None)
{
    public double Width => Left.DistanceTo(Right);
}

/// <summary>
/// A stroke that is ready to be sewn: its middle line from end to end and its rungs at the satin's spacing. A rung reaches to the outline on both sides; in a junction, where the outline
/// opens, it is as wide as the stroke is before and behind. Towards a slanted end rungs turn evenly into the cut.
/// </summary>
internal sealed class StrokeRungs
{
    private const double MitreOverlap = 0.1;
    private const double MitreReach = 2.5;
    private const double Step = 0.25;
    private const int LookAhead = 3;

    // The last throw lies this far inside the end.
    private const double InsideEnd = 0.08;

    // A free end is taken on straight from so many half widths before the end that was found, or more where only there the line is steady (degrees).
    private const double Veering = 0.8;
    private const double MostVeering = 3.2;
    private const double Steady = 4;

    // Along the bisector of a corner the axis is straight too, but there is less and less room: at least this part of half the width is wanted.
    private const double StillWide = 0.85;

    // The way over which rungs turn into a cut, in widths a radian; less and they would cross.
    private const double TurningWay = 0.9;
    private const double LeastSlant = 0.3 * Math.PI / 180;
    private const int MovedAtEnd = 4;

    // At the outer edge of a bend throws may lie this much farther apart than the spacing.
    private const double MostAtEdge = 1.15;

    // An end follows the edge when it turns by no more than this to do so, degrees.
    private const double MostFromEdge = 40;

    // Before a junction a side counts as undisturbed where it widens by hardly more (so much for each mm) than a little farther off; that is looked for over so many half widths.
    private const double Undisturbed = 0.2;
    private const double MostDisturbed = 3.0;

    // So many widths of a stroke before a junction may have to tuck under what it joins.
    private const double TuckingPart = 1.5;

    // Where a tucked end flares out into what it joins, as serifs do, a side goes along by so much for each mm.
    private const double MostFlare = 1.0;
    private readonly Walls _walls;
    private double[] _along;
    private readonly double[] _left;
    private readonly double[] _right;
    private double _half = 0.5;
    private (double Slant, double Way) _startCut;
    private (double Slant, double Way) _endCut;

    // How much of each end lies beyond the middle line as it was found, mm.
    private double _prolongedBefore;
    private double _prolongedAfter;

    private StrokeRungs(Stroke stroke, Walls outline, Terminals terminals, double spacing)
    {
        (Source, _walls) = (stroke, outline);
        Middle = Prolonged(Smooth(), terminals);
        _along = Along(Middle);
        var count = Math.Max(2, (int)Math.Ceiling(Length / Step)) + 1;
        (_left, _right) = (Reaches(count, 1), Reaches(count, -1));
        foreach (var (crossing, flares) in Crossings())
        {
            if (crossing.Opens.HasFlag(Sides.Left)) Narrow(_left, crossing, flares);
            if (crossing.Opens.HasFlag(Sides.Right)) Narrow(_right, crossing, flares);
        }

        Rungs = Uncrossed(Cut(Throw(spacing)));
    }

    public Stroke Source { get; }

    public bool Closed => Source.Closed;

    /// <summary>The middle line; in a ring the last point is the first.</summary>
    public Point[] Middle { get; private set; }

    public double Length => _along[^1];

    public List<Rung> Rungs { get; private set; }

    /// <summary>The usual width, mm.</summary>
    public double Width => 2 * _half;

    /// <summary>What throws cover that are no longer than some length, mm².</summary>
    public double Covers(double longest = double.PositiveInfinity)
    {
        var covers = 0.0;
        for (var i = 1; i < Rungs.Count; i++)
            if (Rungs[i].Width <= longest)
                covers += (Rungs[i].At - Rungs[i - 1].At) * Rungs[i].Width;
        return covers;
    }

    /// <summary>The length that three of four throws reach, mm.</summary>
    public double LowerQuartile => Rungs.Count == 0 ? 0 : Rungs.Select(r => r.Width).Order().ElementAt(Rungs.Count / 4);

    /// <summary>Rungs of a stroke, <paramref name="spacing"/> mm apart in the outer half of a bend.</summary>
    public static StrokeRungs Of(Stroke stroke, Walls outline, Terminals terminals, double spacing) => new(stroke, outline, terminals, spacing);

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

    /// <summary>Takes the ground of its throws, but for its ends that tuck under others and an edge as wide as others are to tuck under it.</summary>
    public void Take(AreaCells ground, double tuck) => Take(ground, tuck, Rungs.FindAll(r => r.At > Ends.Before && r.At < Ends.After));

    /// <summary>At ends that tuck under others only what others leave is thrown; what is thrown is taken too.</summary>
    public void Tuck(AreaCells ground, double tuck)
    {
        var (before, after) = Ends;
        if (before < 0 && after > Length) return;
        var (first, end) = (Rungs.FindIndex(r => r.At > before), Rungs.FindIndex(r => r.At >= after));
        (first, end) = (first < 0 ? Rungs.Count : first, end < 0 ? Rungs.Count : end);
        var kept = Rungs[first..Math.Max(first, end)];
        var head = Left(Rungs[..first].AsEnumerable().Reverse(), kept.Count > 0 ? kept[0] : null, ground);
        var tail = Left(Rungs[Math.Max(first, end)..], kept.Count > 0 ? kept[^1] : head.Count > 0 ? head[0] : null, ground);
        head.Reverse();
        Take(ground, tuck, head);
        Take(ground, tuck, tail);
        Rungs = [.. head, .. kept, .. tail];
        if (Rungs.Count > 1) Follow(head, kept, tail);
    }

    /// <summary>Between which places along it a stroke is clear of what it tucks under.</summary>
    private (double Before, double After) Ends
    {
        get
        {
            var (before, after) = (-1.0, Length + 1);
            var own = Crossings().Where(c => double.IsFinite(c.Crossing.From) && double.IsFinite(c.Crossing.To)).Select(c => c.Crossing).ToList();
            if (!Closed && Source.Start.Tucks) before = own.Select(c => c.From).Append(_prolongedBefore + (TuckingPart * Width)).Min();
            if (!Closed && Source.End.Tucks) after = own.Select(c => c.To).Append(Length - _prolongedAfter - (TuckingPart * Width)).Max();
            return before <= after ? (before, after) : ((before + after) / 2, (before + after) / 2);
        }
    }

    private static void Take(AreaCells ground, double tuck, List<Rung> rungs)
    {
        for (var i = 1; i < rungs.Count; i++)
        {
            var (a, b) = (Drawn(rungs[i - 1]), Drawn(rungs[i]));
            ground.Take(a.Left, b.Left, b.Right, a.Right);
        }

        Rung Drawn(Rung r)
        {
            var by = r.Width < 1e-9 ? 0 : Math.Min(tuck / r.Width, 0.35);
            return r with { Left = r.Left.Toward(r.Right, by), Right = r.Right.Toward(r.Left, by) };
        }
    }

    /// <summary>Of rungs, from the clear part on, what others leave; as far as it goes on without a break.</summary>
    private static List<Rung> Left(IEnumerable<Rung> rungs, Rung? last, AreaCells ground)
    {
        var left = new List<Rung>();
        foreach (var rung in rungs)
        {
            if (Left(rung, ground) is not { } part || (last is { } l && !Faces(l, part))) break;
            left.Add(part);
            last = part;
        }

        return left;
    }

    /// <summary>The longest part of a rung on ground that nobody has taken; null when none is worth a throw.</summary>
    private static Rung? Left(Rung rung, AreaCells ground)
    {
        var pieces = Math.Max(2, (int)Math.Ceiling(rung.Width / (0.7 * ground.Size)));
        var (from, best, run) = (0, (From: 0, Count: 0), 0);
        for (var k = 0; k <= pieces; k++)
        {
            if (ground.At(rung.Left.Toward(rung.Right, k / (double)pieces)) == AreaCells.Taken)
            {
                run = 0;
                continue;
            }

            if (run++ == 0) from = k;
            if (run > best.Count) best = (from, run);
        }

        if (best.Count == pieces + 1) return rung;
        if ((best.Count - 1) * rung.Width / pieces < Limits.ShortestStitch) return null;
        var (l, r) = (rung.Left.Toward(rung.Right, best.From / (double)pieces), rung.Left.Toward(rung.Right, (best.From + best.Count - 1) / (double)pieces));
        var tucked = (best.From > 0 ? Sides.Left : Sides.None) | (best.From + best.Count <= pieces ? Sides.Right : Sides.None);
        return rung with { Left = l, Right = r, Middle = l.Toward(r, 0.5), Tucked = tucked };
    }

    /// <summary>Whether a rung goes on from another: they face each other, and do not lie at different sides of something.</summary>
    private static bool Faces(Rung from, Rung to)
    {
        var across = (from.Left - from.Right).Unit();
        var (l, r) = ((to.Left - from.Right).Dot(across), (to.Right - from.Right).Dot(across));
        return Math.Max(l, r) > 0 && Math.Min(l, r) < from.Width;
    }

    /// <summary>The middle line goes no farther than the rungs, and at its ends along the middles of what is left of them: whoever travels along it is covered.</summary>
    private void Follow(List<Rung> head, List<Rung> kept, List<Rung> tail)
    {
        var line = head.ConvertAll(r => r.Middle);
        var before = line.Count;
        if (kept.Count > 1) line.AddRange(Between(kept[0].At, kept[^1].At));
        else line.AddRange(kept.Select(r => r.Middle));
        var after = line.Count;
        line.AddRange(tail.Select(r => r.Middle));
        Middle = line.Count > 1 ? [.. line] : [line[0], line[0] + new Point(1e-3, 0)];
        _along = Along(Middle);
        var begun = before < _along.Length ? _along[before] : 0;
        Rungs = [.. head.Select((r, i) => r with { At = _along[i] }), .. kept.Select(r => r with { At = r.At - kept[0].At + begun }), .. tail.Select((r, i) => r with { At = _along[after + i] })];
    }

    private static double[] Along(Point[] line)
    {
        var along = new double[line.Length];
        for (var i = 1; i < line.Length; i++) along[i] = along[i - 1] + line[i].DistanceTo(line[i - 1]);
        return along;
    }

    private int Segment(double at)
    {
        var i = Array.BinarySearch(_along, at);
        if (i < 0) i = ~i - 1;
        return Math.Clamp(i, 0, _along.Length - 2);
    }

    /// <summary>The middle line without the jags of its triangles: each point becomes the mean of those about half a width around it.</summary>
    private Point[] Smooth()
    {
        var rough = Source.Middle;
        if (Closed) rough = [.. rough, rough[0]];
        var length = Polylines.Length(rough);
        if (length < 1e-6) return [rough[0], rough[0] + new Point(1e-3, 0)];
        var n = Math.Max(2, (int)Math.Ceiling(length / Step));
        var points = Polylines.Divided(rough, n);
        _half = HalfWidth(points);
        var reach = (int)Math.Ceiling(Math.Clamp(_half, 0.3, 6) / Step * 0.8);

        // On tight ground a smoother line would cut across the wall: then it is smoothed less.
        for (; reach > 1; reach /= 2)
            if (Smoothed(points, Closed, reach) is var smooth && !Crosses(smooth))
                return smooth;
        return Smoothed(points, Closed, 1);
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
        var scale = Polylines.Length(Source.Middle) / (line.Length - 1);
        for (var i = 1; i < line.Length; i += Math.Max(1, line.Length / 48))
        {
            var across = (line[i] - line[i - 1]).Unit().Normal();
            if (across != Point.Zero && _walls.Leave(line[i], across) is { } l && _walls.Leave(line[i], across * -1) is { } r)
                widths.Add(((l + r) / 2, !Source.Crossings.Any(c => i * scale > c.From && i * scale < c.To)));
        }

        var counting = widths.Exists(w => w.Counts) ? widths.FindAll(w => w.Counts) : widths;
        return counting.Count == 0 ? 0.5 : counting.Select(w => w.Width).Order().ElementAt(counting.Count / 2);
    }

    /// <summary>Free and mitred ends are taken straight on to the wall, or to the middle of their cut; those that tuck under others through the junction.</summary>
    private Point[] Prolonged(Point[] line, Terminals terminals)
    {
        if (Closed) return line;
        (line, _endCut, _prolongedAfter) = TakenOn(line, Source.End, terminals, isStart: false);
        Array.Reverse(line);
        (line, var cut, _prolongedBefore) = TakenOn(line, Source.Start, terminals, isStart: true);
        Array.Reverse(line);

        // Left and right are seen the other way round from the start.
        _startCut = cut;
        return line;
    }

    private (Point[] Line, (double Slant, double Way) Cut, double By) TakenOn(Point[] line, StrokeEnd end, Terminals terminals, bool isStart)
    {
        var kept = end is { IsFree: true, Reach: 0 } ? WithoutVeering(line) : line;
        var (from, ahead) = (kept[^1], Tangent(kept));
        if (end is { IsFree: true, Opens: Sides.Left or Sides.Right }) ahead = AlongTheEdge(from, ahead, end.Opens, isStart);
        var wall = _walls.Leave(from, ahead) ?? 0;
        if (end.Tucks) return (Onwards(kept, ahead, Math.Min(end.Reach, wall - InsideEnd)), default, Math.Max(0, Math.Min(end.Reach, wall - InsideEnd)));
        if (end.Mitres.Count > 1) wall = Math.Min(wall, Math.Max(0, (end.Mitres[0].At - from).Dot(ahead)) + MitreOverlap);
        if (end.IsFree && terminals.Cut(from, ahead, from + (ahead * wall), _half) is var (left, right))
        {
            var (slant, across) = (Terminals.Slant(ahead.Normal(), left, right), (left - right).Unit());
            var by = (left - from).Cross(across) / ahead.Cross(across);
            if (by > InsideEnd && by < wall + _half)
            {
                var cut = Math.Abs(slant) < LeastSlant ? default : (slant, Math.Min((TurningWay * Math.Abs(slant) * Width) + 0.2, 0.45 * Polylines.Length(line)));
                return (Onwards(kept, ahead, Math.Min(by, wall) - InsideEnd), cut, end.Reach > 0 ? by : 0);
            }
        }

        return (Onwards(kept, ahead, wall - InsideEnd), default, end.Reach > 0 ? wall : 0);
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

    /// <summary>The axis veers into the corners of a free end: the line without that, if it can go on straight from there as far as it went.</summary>
    private Point[] WithoutVeering(Point[] line)
    {
        for (var halves = Veering; halves <= MostVeering; halves += Veering)
        {
            var (cut, more) = ((int)(halves * _half / Step), (int)((halves + Veering) * _half / Step));
            if (line.Length - more < 4) break;
            var kept = line[..^cut];
            var ahead = Tangent(kept);
            if (ahead.Dot(Tangent(line[..^more])) < Math.Cos(Steady * Math.PI / 180) || Room(kept[^1]) < StillWide * _half) continue;
            if ((_walls.Leave(kept[^1], ahead) ?? 0) > 0.7 * cut * Step) return kept;
        }

        var usual = (int)(Veering * _half / Step);
        return line.Length > 2.5 * usual ? line[..^usual] : line;
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
        var look = Math.Min(line.Length - 1, Math.Max(2, (int)(1.5 * _half / Step)));
        return (line[^1] - line[^(look + 1)]).Unit();
    }

    /// <summary>By even places along the middle: how far the outline lies to one side (1: left), mm.</summary>
    private double[] Reaches(int count, int side)
    {
        var reaches = new double[count];
        for (var i = 0; i < count; i++)
        {
            WorkBudget.Current.Spend(2);
            var at = Length * i / (count - 1);
            reaches[i] = _walls.Leave(PointAt(at), DirectionAt(at).Normal() * side) ?? 0;
        }

        return reaches;
    }

    /// <summary>Junctions along the middle as it is now, those in which it ends included.</summary>
    private IEnumerable<(Crossing Crossing, bool Flares)> Crossings()
    {
        // What was found in the rough line lies at the same part of the smooth one.
        var rough = Polylines.Length(Source.Middle);
        var smooth = Length - _prolongedBefore - _prolongedAfter;
        var scale = rough < 1e-9 ? 1 : smooth / rough;
        foreach (var (from, to, opens) in Source.Crossings) yield return (new(_prolongedBefore + (from * scale), _prolongedBefore + (to * scale), opens), false);
        if (Closed) yield break;

        // A mitre says how far throws reach.
        if (Source.Start is { Reach: > 0, Mitres.Count: 0 } start) yield return (new(double.NegativeInfinity, _prolongedBefore, start.Opens), start.Tucks);
        if (Source.End is { Reach: > 0, Mitres.Count: 0 } end) yield return (new(Length - _prolongedAfter, double.PositiveInfinity, end.Opens), end.Tucks);
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
        var (window, most) = (Math.Max(2, (int)(0.5 * _half / step)), (int)(MostDisturbed * _half / step));
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

    private List<Rung> Throw(double spacing)
    {
        var rungs = new List<Rung>();
        double at = 0;
        var last = Length;
        while (at <= last + 1e-9)
        {
            WorkBudget.Current.Spend(4);
            var direction = DirectionAt(at);
            var rung = RungAt(at, direction);
            rungs.Add(rung);

            // On the outside of a bend, or of rungs that turn into a cut, throws lie farther apart than in the middle: the spacing holds half way to the edge, and at the edge nearly.
            var on = DirectionAt(at + 0.1);
            var bend = Math.Asin(Math.Clamp(direction.Cross(on), -1, 1)) / 0.1;
            var outer = bend > 0 ? rung.Middle.DistanceTo(rung.Left) : rung.Middle.DistanceTo(rung.Right);
            at += Math.Max(spacing / Math.Max(1 + (Math.Abs(bend) * outer / 2), (1 + (Math.Abs(bend) * outer)) / MostAtEdge), 0.06);
        }

        // The last lies at the very end; a few before it are moved so that none is crowded and no gap opens.
        if (!Closed)
        {
            var kept = Math.Max(1, rungs.Count - MovedAtEnd);
            var (from, count) = (rungs[kept - 1].At, rungs.Count - kept);
            var pieces = Math.Max(1, count + (last - rungs[^1].At > 0.5 * spacing ? 1 : 0));
            rungs.RemoveRange(kept, count);
            for (var k = 1; k <= pieces; k++) rungs.Add(RungAt(from + ((last - from) * k / pieces), DirectionAt(from + ((last - from) * k / pieces))));
        }

        return rungs;
    }

    private Rung RungAt(double at, Point direction)
    {
        var (middle, across) = (PointAt(at), direction.Normal());
        var (left, right) = (Read(_left, at / Length), Read(_right, at / Length));

        // The outline itself, where no junction says less, is met exactly.
        if (_walls.Leave(middle, across) is { } l) left = l < left * 1.25 ? l : left;
        if (_walls.Leave(middle, across * -1) is { } r) right = r < right * 1.25 ? r : right;
        return new(at, middle + (across * left), middle - (across * right), middle);
    }

    /// <summary>At a mitred end throws reach only a little over the cut; the middle line goes no farther than the cut either, for there the needle changes over.</summary>
    private List<Rung> Cut(List<Rung> rungs)
    {
        var last = rungs.Count == 0 ? 0 : rungs[^1].At;
        foreach (var (m, end) in Source.Start.Mitres.Select(m => (m, 0.0)).Concat(Source.End.Mitres.Select(m => (m, last))))
        {
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

    /// <summary>No rung crosses the one before: on the inside of a tight bend it stops short of it.</summary>
    private static List<Rung> Uncrossed(List<Rung> rungs)
    {
        const double apart = 0.05;
        for (var i = 1; i < rungs.Count; i++)
        {
            var (a, b) = (rungs[i - 1], rungs[i]);
            var (u, v) = (a.Right - a.Left, b.Right - b.Left);
            var cross = v.Cross(u);
            if (Math.Abs(cross) < 1e-9) continue;
            var (t, w) = ((a.Left - b.Left).Cross(u) / cross, (a.Left - b.Left).Cross(v) / cross);
            if (t is <= 0 or >= 1 || w is <= 0 or >= 1) continue;
            var back = Math.Min(0.3, apart / Math.Max(v.Length, 1e-9));
            rungs[i] = t > 0.5 ? b with { Right = b.Left.Toward(b.Right, Math.Max(0.5, t - back)) } : b with { Left = b.Left.Toward(b.Right, Math.Min(0.5, t + back)) };
        }

        return rungs;
    }

    /// <summary>Direction that rungs lie square to: that of the middle line, turned towards a cut where an end has one.</summary>
    private Point DirectionAt(double at)
    {
        const double look = 0.5;
        var direction = (Around(at + look) - Around(at - look)).Unit();
        if (direction == Point.Zero) direction = new(1, 0);
        var turn = Turning(_startCut, at) + Turning(_endCut, Length - at);
        return turn == 0 ? direction : direction.Turned(turn * 180 / Math.PI, Point.Zero);
    }

    private static double Turning((double Slant, double Way) cut, double fromEnd)
    {
        if (cut.Way <= 0 || fromEnd >= cut.Way) return 0;
        var t = 1 - (Math.Max(0, fromEnd) / cut.Way);
        return cut.Slant * t * t * (3 - (2 * t));
    }

    private Point Around(double at)
    {
        if (Closed) return PointAt(((at % Length) + Length) % Length);
        if (at < 0) return PointAt(0) + ((PointAt(0) - PointAt(Math.Min(0.5, Length))).Unit() * -at);
        if (at > Length) return PointAt(Length) + ((PointAt(Length) - PointAt(Math.Max(0, Length - 0.5))).Unit() * (at - Length));
        return PointAt(at);
    }
}
