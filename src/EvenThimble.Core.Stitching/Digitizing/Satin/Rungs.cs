using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// A place where a stroke is thrown across, from edge to edge, and how far along the stroke it lies (mm). At tucked sides it ends under another stroke; at inner ones another tucks under it.
/// </summary>
internal readonly record struct Rung(double At, Point Left, Point Right, Point Middle, Sides Tucked = Sides.None, Sides Inner = Sides.None)
{
    public double Width => Left.DistanceTo(Right);

    /// <summary>Where the stroke is drawn rather than thrown: from the middle between its edges to the line on which the needle goes out, mm; the line on which it comes back lies as far to the other side. Null where it is thrown.</summary>
    public Point? Aside { get; init; }

    /// <summary>Where the needle passes on its way out along a stroke that is drawn there.</summary>
    public Point Out => Left.Toward(Right, 0.5) + (Aside ?? default);

    /// <summary>Where it comes back.</summary>
    public Point Back => Left.Toward(Right, 0.5) - (Aside ?? default);

    /// <summary>The same thrown from the other side.</summary>
    public Rung Turned() => this with { Left = Right, Right = Left, Tucked = Turned(Tucked), Inner = Turned(Inner) };

    private static Sides Turned(Sides sides) => (sides.HasFlag(Sides.Left) ? Sides.Right : Sides.None) | (sides.HasFlag(Sides.Right) ? Sides.Left : Sides.None);
}

/// <summary>A stroke that is ready to be sewn: its middle line from end to end and its rungs at the satin's spacing.</summary>
internal sealed class StrokeRungs
{
    private const double MitreOverlap = StrokeMiddle.MitreOverlap;
    private const double MitreReach = 2.5;
    private const int MovedAtEnd = 6;

    // Where throws turn fastest they lie so close along the middle, mm.
    private const double LeastStep = 0.02;

    // So many times as far as the throw before it, and so much farther (mm), may the last one reach to a side.
    private const double MostOfEnd = 1.4;
    private const double MoreOfEnd = 0.3;

    // Where it reaches less far than this part of that, it goes on as long as it lies no farther than so beyond the edge, mm; tried in so many steps.
    private const double LeastOfEnd = 0.9;
    private const double MostGrazed = 0.15;
    private const int Looks = 12;

    // A rung is laid along a cut where the last one lies farther from it than this part of the spacing.
    private const double LeastPartToCut = 0.3;

    // Of long throws a gap between two is seen: from the one length to the other they lie no farther apart at the outer edge of a bend than so many times the spacing, and so much of one is spread
    // over the last few before an end rather than closed by one more, mm.
    private static readonly (double Length, double AtEdge, double Spread) ShortThrows = (4, 1.2, 0.5);
    private static readonly (double Length, double AtEdge, double Spread) LongThrows = (10, 1.1, 0.1);

    // Where narrow strokes are thrown looser, they are so from the one width down to the other, mm.
    private const double LooserUpTo = 2.0;
    private const double LoosestAt = 1.0;

    // How far a throw may lie from the one before it is tried so often, and may be so many times what it should; it is looked at up to so far beyond the end of that, mm.
    private const int MostTries = 3;
    private const double NearlyMost = 1.02;
    private const double BesideEnd = 1.0;

    // Where the edge steps away by so much along a throw, one lies so far beside the step, unless another lies as near as this, mm, and leaves less of a strip bare, mm².
    private const double LeastOfStep = 1.0;
    private const double BesideStep = 0.15;
    private const double NearStep = 0.25;
    private const double LeastStrip = 0.1;
    private const int Halvings = 8;

    // Where throws lie aslant of the middle, a mm along it counts as no less than this between them.
    private const double LeastApart = 0.7;

    // So many widths of a stroke before a junction may have to tuck under what it joins.
    private const double TuckingPart = 1.5;

    // A throw is whole from the first part of the usual width on; below the second hardly anything is left of it.
    private const double WholePart = 0.7;
    private const double HardlyAny = 0.3;

    private readonly StrokeMiddle _middle;
    private readonly StrokeWidths _widths;

    private StrokeRungs(Stroke stroke, Walls outline, Terminals terminals, SatinStyle style)
    {
        Source = stroke;
        _middle = new(stroke, outline, terminals);
        _widths = new(stroke, _middle, outline);
        Line = _middle.Line;
        Rungs = Untangling.Of(Cut(Throw(style)), outline, style.SpacingMm);
        if (style.Closes) LieAtSteps();
        if (Closed || Rungs.Count < 3) return;
        HoldEnds(outline);
        CoverEnds(outline, style.SpacingMm);
    }

    public Stroke Source { get; }

    public bool Closed => Source.Closed;

    /// <summary>The middle line, as far as there are rungs; in a ring the last point is the first.</summary>
    public MeasuredLine Line { get; private set; }

    public double Length => Line.Length;

    public List<Rung> Rungs { get; private set; }

    /// <summary>The usual width, mm.</summary>
    public double Width => 2 * _middle.Half;

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

    /// <summary>Rungs of a stroke, at the spacing of a style in the outer half of a bend.</summary>
    public static StrokeRungs Of(Stroke stroke, Walls outline, Terminals terminals, SatinStyle style) => new(stroke, outline, terminals, style);

    /// <summary>Takes the ground of its throws, but for its ends that tuck under others and an edge as wide as others are to tuck under it.</summary>
    public void Take(AreaCells ground, double tuck)
    {
        var (before, after) = Ends();
        Tucking.Take(ground, tuck, Rungs.FindAll(r => r.At > before && r.At < after));
    }

    /// <summary>At ends that tuck under others only what others leave is thrown; what is thrown is taken too.</summary>
    public void Tuck(AreaCells ground, double tuck)
    {
        var (before, after) = Ends();
        if (before < 0 && after > Length) return;
        var (first, end) = (Rungs.FindIndex(r => r.At > before), Rungs.FindIndex(r => r.At >= after));
        (first, end) = (first < 0 ? Rungs.Count : first, end < 0 ? Rungs.Count : end);
        var kept = Rungs[first..Math.Max(first, end)];
        var head = Tucking.Left(Rungs[..first].AsEnumerable().Reverse(), kept.Count > 0 ? kept[0] : null, ground);
        var tail = Tucking.Left(Rungs[Math.Max(first, end)..], kept.Count > 0 ? kept[^1] : head.Count > 0 ? head[0] : null, ground);
        head.Reverse();
        Tucking.Take(ground, tuck, head);
        Tucking.Take(ground, tuck, tail);
        Rungs = [.. head, .. kept, .. tail];
        if (Rungs.Count > 1) Follow(head, kept, tail);
    }

    /// <summary>Between which places along it a stroke is clear of what it tucks under.</summary>
    private (double Before, double After) Ends()
    {
        var (before, after) = (-1.0, Length + 1);
        var own = _widths.Crossings().ToList();
        if (!Closed && Source.Start.Tucks) before = own.Select(c => c.From).Append(_middle.ProlongedBefore + (TuckingPart * Width)).Min();
        if (!Closed && Source.End.Tucks) after = own.Select(c => c.To).Append(Length - _middle.ProlongedAfter - (TuckingPart * Width)).Max();


        // Where a mitre has left hardly anything of the throws at the other end, what is clear begins with a whole one all the same.
        var whole = Rungs.FindAll(r => r.Width >= WholePart * Width);
        if (whole.Count > 0 && !Rungs.Exists(r => r.At > before && r.At < after && r.Width >= HardlyAny * Width))
            (before, after) = (Math.Min(before, whole[^1].At - 1e-6), Math.Max(after, whole[0].At + 1e-6));
        return before <= after ? (before, after) : ((before + after) / 2, (before + after) / 2);
    }

    /// <summary>The middle line goes no farther than the rungs, and at its ends along the middles of what is left of them: whoever travels along it is covered.</summary>
    private void Follow(List<Rung> head, List<Rung> kept, List<Rung> tail)
    {
        var line = head.ConvertAll(r => r.Middle);
        var before = line.Count;
        if (kept.Count > 1) line.AddRange(Line.Between(kept[0].At, kept[^1].At));
        else line.AddRange(kept.Select(r => r.Middle));
        var after = line.Count;
        line.AddRange(tail.Select(r => r.Middle));
        Line = new(line.Count > 1 ? [.. line] : [line[0], line[0] + new Point(1e-3, 0)]);
        var begun = before < Line.Points.Length ? Line.AlongAt(before) : 0;
        Rungs = [.. head.Select((r, i) => r with { At = Line.AlongAt(i) }), .. kept.Select(r => r with { At = r.At - kept[0].At + begun }), .. tail.Select((r, i) => r with { At = Line.AlongAt(after + i) })];
    }

    private List<Rung> Throw(SatinStyle style)
    {
        var (rungs, last) = (new List<Rung>(), Length);
        var (at, rung) = (0.0, RungAt(0));
        while (at <= last + 1e-9)
        {
            WorkBudget.Current.Spend(4);
            rungs.Add(rung);
            (at, rung) = Following(rung, style);
        }

        // The last lies at the very end; a few before it are moved so that none is crowded and no gap opens.
        if (!Closed)
        {
            var kept = Math.Max(1, rungs.Count - MovedAtEnd);
            var (from, moved) = (rungs[kept - 1].At, rungs[kept..].ConvertAll(r => r.At));
            var usual = moved.Count == 0 ? style.SpacingMm : (moved[^1] - from) / moved.Count;
            if (moved.Count == 0 || Math.Ceiling(((last - from) / usual) - Between(ShortThrows.Spread, LongThrows.Spread, rungs[kept - 1])) > moved.Count) moved.Add(at);
            var times = (last - from) / (moved[^1] - from);
            rungs.RemoveRange(kept, rungs.Count - kept);
            rungs.AddRange(moved.Select(m => RungAt(from + ((m - from) * times))));
        }

        return rungs;
    }

    /// <summary>The rung after one, and how far along it lies, mm.</summary>
    private (double At, Rung Rung) Following(Rung rung, SatinStyle style)
    {
        var (at, direction, spacing) = (rung.At, _middle.DirectionAt(rung.At), style.SpacingMm * (1 + (style.NarrowLooser * Narrowness(rung))));

        // On the outside of a bend, or of rungs that turn into a cut, throws lie farther apart than in the middle: the spacing holds half way to the edge, and at the edge nearly.
        var bend = _middle.BendAt(at);
        var outer = bend > 0 ? rung.Middle.DistanceTo(rung.Left) : rung.Middle.DistanceTo(rung.Right);
        var most = Between(ShortThrows.AtEdge, LongThrows.AtEdge, rung);
        var step = spacing / Math.Max(1 + (Math.Abs(bend) * outer / 2), (1 + (Math.Abs(bend) * outer)) / most) / Math.Max(direction.Dot(_middle.Along(at)), LeastApart);
        step = Math.Max(AtEdge(rung, direction, at, step, style.SpacingMm), LeastStep);
        var next = RungAt(at + step);

        // Where the edge goes away from the middle, or the bend changes, they may still do so.
        for (var tries = 0; style.Closes && tries < MostTries && step > LeastStep && Apart(rung, next) is var apart && apart > NearlyMost * most * spacing; tries++)
        {
            step = Math.Max(step * most * spacing / apart, LeastStep);
            next = RungAt(at + step);
        }

        return (at + step, next);
    }

    /// <summary>How far the ends of a rung lie off the line of the one before it, mm; of one that reaches much farther, as far as that is beside it.</summary>
    private static double Apart(Rung rung, Rung next)
    {
        var along = (rung.Right - rung.Left).Unit();
        return Math.Max(Off(rung.Left, next.Left), Off(rung.Right, next.Right));

        double Off(Point end, Point nextEnd)
        {
            var (reach, beside) = (next.Middle.DistanceTo(nextEnd), rung.Middle.DistanceTo(end) + BesideEnd);
            return Math.Abs(along.Cross((reach > beside ? next.Middle.Toward(nextEnd, beside / reach) : nextEnd) - end));
        }
    }

    /// <summary>A step along the middle, shorter where the bend only begins and throws would lie too far apart at the outer edge.</summary>
    private double AtEdge(Rung rung, Point direction, double at, double step, double spacing)
    {
        var turn = direction.Cross(_middle.DirectionAt(at + step));
        var apart = step + (Math.Abs(turn) * rung.Middle.DistanceTo(turn > 0 ? rung.Left : rung.Right));
        var most = Between(ShortThrows.AtEdge, LongThrows.AtEdge, rung) * spacing;
        return apart <= most ? step : step * most / apart;
    }

    /// <summary>Between what holds for short throws and what for long ones, for one as long as a rung.</summary>
    private static double Between(double ofShort, double ofLong, Rung rung) =>
        ofShort + ((ofLong - ofShort) * Math.Clamp((rung.Width - ShortThrows.Length) / (LongThrows.Length - ShortThrows.Length), 0, 1));

    /// <summary>Where the edge steps away from the middle, a throw lies close beside the step: else a strip along it stays bare.</summary>
    private void LieAtSteps()
    {
        for (var i = Rungs.Count - 1; i > 0; i--)
            if ((BesideStepOf(Rungs[i - 1], Rungs[i], Sides.Left) ?? BesideStepOf(Rungs[i - 1], Rungs[i], Sides.Right)) is { } at)
                Rungs.Insert(i, RungAt(at));
    }

    /// <summary>Where between two rungs one more lies beside a step of the edge at a side, mm along the middle; null where there is no step, or one of them lies there.</summary>
    private double? BesideStepOf(Rung one, Rung other, Sides side)
    {
        var (ofOne, ofOther) = (Reach(one, side), Reach(other, side));
        if (Math.Abs(ofOne - ofOther) < LeastOfStep) return null;
        var (longer, shorter) = ofOne > ofOther ? (one, other) : (other, one);
        if (longer.Inner.HasFlag(side)) return null;
        var (half, far, near) = ((ofOne + ofOther) / 2, longer.At, shorter.At);
        for (var k = 0; k < Halvings; k++)
        {
            var between = (far + near) / 2;
            if (Reach(RungAt(between), side) > half) far = between;
            else near = between;
        }

        var (off, strip) = (Math.Abs(longer.At - far), Math.Abs(ofOne - ofOther));
        return off < NearStep && (off - (Limits.ThreadWidth / 2)) * strip < LeastStrip ? null : far + (BesideStep * Math.Sign(longer.At - far));
    }

    private static double Reach(Rung rung, Sides side) => rung.Middle.DistanceTo(side == Sides.Left ? rung.Left : rung.Right);

    private static double Narrowness(Rung rung) => Math.Clamp((LooserUpTo - rung.Width) / (LooserUpTo - LoosestAt), 0, 1);

    private Rung RungAt(double at) => RungAt(at, _middle.DirectionAt(at));

    private Rung RungAt(double at, Point direction)
    {
        var (middle, across) = (Line.PointAt(at), direction.Normal());
        var (left, right, inner) = _widths.At(at, middle, across);
        return new(at, middle + (across * left), middle - (across * right), middle, Inner: inner);
    }

    /// <summary>At a mitred end throws reach only a little over the cut; the middle line goes no farther than the cut either, for there the needle changes over.</summary>
    private List<Rung> Cut(List<Rung> rungs)
    {
        var last = rungs.Count == 0 ? 0 : rungs[^1].At;
        foreach (var (m, end) in Source.Start.Mitres.Select(m => (m, 0.0)).Concat(Source.End.Mitres.Select(m => (m, last))))
        {
            var cut = new List<Rung>(rungs.Count);
            Rung? inside = null, beyond = null;
            foreach (var r in rungs)
            {
                // The stroke may come past its own corner again, far from its end.
                if (Math.Abs(r.At - end) > MitreReach * r.Width)
                {
                    cut.Add(r);
                    continue;
                }

                var (l, o) = ((r.Left - m.At).Dot(m.Own) + MitreOverlap, (r.Right - m.At).Dot(m.Own) + MitreOverlap);
                if (l <= 0 && o <= 0)
                {
                    // The one next to those that are kept.
                    if (beyond is null || end > 0 == r.At < beyond.Value.At) beyond = r;
                    continue;
                }

                if (inside is null || end > 0 == r.At > inside.Value.At) inside = r;
                cut.Add(l >= 0 && o >= 0 ? r : l < 0 ? r with { Left = r.Left.Toward(r.Right, l / (l - o)) } : r with { Right = r.Right.Toward(r.Left, o / (o - l)) });
            }

            if (inside is { } kept && beyond is { } next && Along(m, kept, next) is { } along) cut.Insert(end > 0 ? cut.Count : 0, along);
            rungs = cut;
        }

        return rungs;
    }

    /// <summary>Between the last rung before a cut and the first beyond it: the one that just reaches it; null where the last lies close to it.</summary>
    private static Rung? Along(Mitre m, Rung inside, Rung beyond)
    {
        var (left, right) = (Part(inside.Left, beyond.Left), Part(inside.Right, beyond.Right));
        var part = Math.Min(left, right);
        if (part is < LeastPartToCut or > 1) return null;
        return new(inside.At + ((beyond.At - inside.At) * part), inside.Left.Toward(beyond.Left, part), inside.Right.Toward(beyond.Right, part), inside.Middle.Toward(beyond.Middle, part));

        double Part(Point from, Point to)
        {
            var (a, b) = ((from - m.At).Dot(m.Own) + MitreOverlap, (to - m.At).Dot(m.Own) + MitreOverlap);
            return a <= 0 || b > 0 ? double.NegativeInfinity : a / (a - b);
        }
    }

    /// <summary>
    /// The very last throw of an end reaches hardly farther to a side than the one before it: else it looks past a corner, into another stroke. At a free end it reaches hardly less far either, where it
    /// only grazes the edge: else a strip beside it stays bare.
    /// </summary>
    private void HoldEnds(Walls outline)
    {
        foreach (var (last, before, isFree) in new[] { (0, 1, Source.Start.IsFree), (Rungs.Count - 1, Rungs.Count - 2, Source.End.IsFree) })
        {
            var (r, b) = (Rungs[last], Rungs[before]);
            Rungs[last] = r with { Left = Held(r.Left, b.Left), Right = Held(r.Right, b.Right) };

            Point Held(Point end, Point of)
            {
                var (reach, usual) = (r.Middle.DistanceTo(end), b.Middle.DistanceTo(of));
                if (reach > (MostOfEnd * usual) + MoreOfEnd) return r.Middle.Toward(end, ((MostOfEnd * usual) + MoreOfEnd) / reach);
                if (!isFree || reach >= LeastOfEnd * usual || reach < Limits.ShortestStitch) return end;
                var step = (usual - reach) / Looks;
                for (var k = 1; k <= Looks; k++)
                {
                    var farther = reach + step;
                    var place = r.Middle.Toward(end, farther / reach);
                    if (!Grazes(place, b.Middle.Toward(of, farther / usual))) break;
                    (end, reach) = (place, farther);
                }

                return end;
            }
        }

        bool Grazes(Point place, Point inner) => outline.Leave(inner, (place - inner).Unit()) is not { } wall || wall > inner.DistanceTo(place) - MostGrazed;
    }

    /// <summary>Where a free end bulges beyond its last throw, to one side or in the middle, more lie over the bulge.</summary>
    private void CoverEnds(Walls outline, double spacing)
    {
        if (Source.End.IsOpen) Rungs.AddRange(EndBulge.Throws(Rungs[^1], Rungs[^2], outline, spacing));
        if (Source.Start.IsOpen) Rungs.InsertRange(0, EndBulge.Throws(Rungs[0], Rungs[1], outline, spacing).AsEnumerable().Reverse());
    }
}
