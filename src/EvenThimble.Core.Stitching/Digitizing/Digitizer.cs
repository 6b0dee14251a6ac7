using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing;

/// <summary>Makes stitches of drawn shapes: what the settings leave open, the cloth decides. The same shape, settings and cloth give the same stitches.</summary>
public static class Digitizer
{
    // A pen as wide as this leaves strokes that are sewn as those of other letters are, mm.
    private const double BroadPen = 2;

    // An area belongs to a line that comes so near to it, mm.
    private const double FarthestFromWay = 1.5;

    // Corners this much farther off than the nearest lie on the line too, and it goes through an area from here on, mm.
    private const double OnIt = 0.3;
    private const double ShortestPassage = 1;

    // Throws of a pen are lengthened at each end by no more than this part of them: what is so fine pulls little.
    private const double MostPenCompensation = 0.15;

    // A run that is all that is seen of small letters keeps closer to their bends than others do, with stitches as short as this, mm.
    private const double PenChordError = 0.05;
    private const double PenStitch = 0.55;

    // Where the pen is broader than the thread, out and back lie side by side, each so far within its edge; at the ends of a line they come together over such a length, mm.
    private const double WithinPen = 0.17;
    private const double ComingTogether = 0.6;

    // From one part to the next that begins so near its end the needle goes on, mm: thread is not cut and tied twice in one place.
    private const double Touching = 0.6;

    // What comes back to where it begins has at least so many needle points; with more than so many the thread of its ties is little beside all else.
    private const int ShortestUnclosed = 4;
    private const int MostOfSmall = 500;

    // Left to the cloth, throws of the narrowest strokes lie farther apart by this part of the spacing.
    private const double NarrowLooser = 0.07;

    /// <summary>The stitches of a shape, about its own origin: for each connected area or line a jump to it, a tie-in, the stitches, a tie-off and a trim.</summary>
    public static StitchBlob Stitch(DrawnShape shape, StitchSettings settings, ClothProfile cloth)
    {
        var builder = new StitchBuilder(1024);
        foreach (var run in Runs(shape, settings, cloth)) Ties.Add(builder, run);
        return builder.ToBlob();
    }

    /// <summary>The unbroken runs of needle points, without ties.</summary>
    public static IReadOnlyList<List<Point>> Runs(DrawnShape shape, StitchSettings settings, ClothProfile cloth)
    {
        var outlines = shape.Paths.Select(p => (Points: p.Flattened(), p.Closed)).Where(p => p.Points.Count > 1).ToList();
        var sewn = new List<List<Point>>();
        var ofPen = settings.OutAndBack && outlines.TrueForAll(o => !o.Closed);
        if (ofPen && settings.WidthMm >= BroadPen && (settings.Way.IsOfArea() || settings.Way == StitchWay.LineSatin))
        {
            // What a broad pen draws is sewn as any outline is, with what belongs under it.
            var drawn = Area.Of(outlines.SelectMany(o => LineBand.Of(o.Points, o.Closed, settings.WidthMm.Value)).SelectMany(b => b.Rings), Inside.AnyWinding).ToList();
            InOrder(drawn, a => a.Corners, settings, sewn, a => OfArea(a, settings.Way == StitchWay.LineSatin ? settings with { Way = StitchWay.Satin } : settings, cloth));
        }
        else if (ofPen)
        {
            sewn.AddRange(LineTour.Of([.. outlines.Select(o => o.Points)], settings.Start, settings.End).Select(t => OutAndBack(t, settings, cloth)));
        }
        else if (settings.Way.IsOfArea())
        {
            var areas = Area.Of(outlines.Where(o => o.Closed).Select(o => o.Points), shape.Rule).ToList();
            var ways = settings.Way == StitchWay.Automatic ? [] : outlines.Where(o => !o.Closed).Select(o => new MeasuredLine([.. o.Points])).ToList();
            if (ways.Count > 0) sewn.AddRange(AlongWays(areas, ways, a => OfArea(a, settings, cloth)));
            else InOrder(areas, a => a.Corners, settings, sewn, a => OfArea(a, settings, cloth));

            // Open lines have no area; left to be decided they are run.
            if (settings.Way == StitchWay.Automatic)
                InOrder(outlines.Where(o => !o.Closed).ToList(), o => o.Points, settings, sewn, o => (_, _) => RunLine.Along(o.Points, settings.StitchLengthMm ?? Limits.RunStitch));
        }
        else if (settings.Way == StitchWay.LineSatin)
        {
            var width = settings.WidthMm ?? StitchSettings.UsualWidth;
            var bands = outlines.SelectMany(o => LineBand.Of(o.Points, o.Closed, width)).ToList();
            InOrder(bands, a => a.Corners, settings, sewn, a => OfSatin(a, Style(settings, cloth, StitchWay.LineSatin)));
        }
        else
        {
            InOrder(outlines, o => o.Points, settings, sewn, o => (from, _) => OfLine(Begun(o.Points, o.Closed, from), settings));
        }

        return [.. sewn.Where(r => r.Count > 1)];
    }

    /// <summary>Sews a thing from near one place, where that is wanted, to near another.</summary>
    private delegate List<Point> Sewer(Point? start, Point? end);

    /// <summary>Sews things one after another, the nearest next; the first is begun at the wanted start, the last ended at the wanted end.</summary>
    private static void InOrder<T>(List<T> things, Func<T, IEnumerable<Point>> pointsOf, StitchSettings settings, List<List<Point>> into, Func<T, Sewer> sewer)
    {
        var needle = settings.Start;
        var left = things.ConvertAll(t => pointsOf(t).ToArray() is var points ? (Thing: t, Points: points, Box: Box.Around(points)) : default);
        while (left.Count > 0)
        {
            var (next, start) = needle is { } at ? NearestOf(at) : (0, (Point?)null);
            var (thing, points, _) = left[next];
            left.RemoveAt(next);
            if (into.Count == 0) start = settings.Start;
            var end = left.Count == 0 ? settings.End : null;
            var sew = sewer(thing);
            var run = sew(start, end);
            if (run.Count < 2) continue;
            if (into.Count > 0) run = LessCrowded(run, [() => Unclosed(run), () => sew(null, end), () => sew(points.MaxBy(p => p.DistanceTo(needle!.Value)), end)], into);
            if (Touches(into, run)) FillSewing.Append(into[^1], run);
            else into.Add(run);
            needle = run[^1];
        }

        (int Next, Point? Start) NearestOf(Point at)
        {
            var (best, place, nearest) = (0, (Point?)null, double.PositiveInfinity);
            for (var i = 0; i < left.Count; i++)
            {
                WorkBudget.Current.Spend();
                if (left[i].Box.DistanceTo(at) >= nearest) continue;
                WorkBudget.Current.Spend(left[i].Points.Length / 16);
                foreach (var p in left[i].Points)
                    if (p.DistanceTo(at) < nearest)
                        (best, place, nearest) = (i, p, p.DistanceTo(at));
            }

            return (best, place);
        }
    }

    /// <summary>What ends where it begins, as a fine line does, is tied twice there, and may meet what is sewn already: where so many needle points or so much thread would cut the cloth it is begun elsewhere.</summary>
    private static List<Point> LessCrowded(List<Point> run, Func<List<Point>>[] elsewhere, List<List<Point>> sewn)
    {
        var worst = Crowding(run);
        foreach (var sewElsewhere in elsewhere)
        {
            if (worst <= 0) break;
            if (sewElsewhere() is { Count: > 1 } other && Crowding(other) is var less && less < worst) (run, worst) = (other, less);
        }

        return run;

        // How many needle points and mm of thread too many lie in one place.
        double Crowding(List<Point> of)
        {
            WorkBudget.Current.Spend(sewn.Sum(s => s.Count) / 64);
            var (tied, box) = (Touches(sewn, of) ? Ties.TiedOff(of) : Ties.Tied(of), Box.Around(of).Grown(1));
            var near = sewn.FindAll(s => Box.Around(s).Meets(box)).ConvertAll(s => Ties.Tied(s).ToList());
            var points = CrowdedPoints.Most(tied, near.SelectMany(s => s).Where(box.Holds)) - CrowdedPoints.Harmless;
            return near.Count == 0 || of.Count > MostOfSmall ? points : points + Math.Max(0, HeapMap.MostOf(tied, near) - HeapedThread.Harmful);
        }
    }

    /// <summary>What goes out and comes back to where it begins, without the last stitch, for the first lies there; what does not as it is.</summary>
    private static List<Point> Unclosed(List<Point> run) =>
        run.Count >= ShortestUnclosed && Math.Max(run[^1].DistanceToLine(run[0], run[1]), run[^2].DistanceToLine(run[0], run[1])) < Limits.ThreadWidth / 2 ? run[..^1] : run;

    private static bool Touches(List<List<Point>> sewn, List<Point> next) => sewn.Count > 0 && sewn[^1][^1].DistanceTo(next[0]) <= Touching;

    /// <summary>
    /// Areas that lie along lines, as leaves do along their stem and pearls on their string: each is begun where its line comes to it and ended where that leaves it, and from one to the next the needle goes along the
    /// line in a run. What lies far from every line is sewn by itself.
    /// </summary>
    private static IEnumerable<List<Point>> AlongWays(List<Area> areas, List<MeasuredLine> ways, Func<Area, Sewer> sewer)
    {
        foreach (var group in areas.ConvertAll(a => OnWay.Of(a, ways)).GroupBy(o => o.Way).OrderBy(g => g.Key))
        {
            var (whole, at) = (new List<Point>(), 0.0);
            foreach (var on in group.OrderBy(o => o.From))
            {
                var run = sewer(on.Area)(on.Entry, on.Exit);
                if (run.Count < 2) continue;
                if (group.Key < 0)
                {
                    yield return run;
                    continue;
                }

                if (whole.Count > 0) whole.AddRange(Between(whole[^1], ways[group.Key], at, on.From, run[0]));
                whole.AddRange(whole.Count > 0 && whole[^1].DistanceTo(run[0]) < Limits.ShortestStitch ? run.Skip(1) : run);
                at = on.To;
            }

            if (whole.Count > 1) yield return whole;
        }
    }

    /// <summary>An area beside one of some lines, or on it: where the line comes to it and leaves it.</summary>
    /// <param name="Area">The area.</param>
    /// <param name="Way">The number of the line; below 0: all are far.</param>
    /// <param name="From">How far along the line that is, mm.</param>
    /// <param name="Entry">The corner of the area there.</param>
    /// <param name="To">How far along the line leaves it, mm.</param>
    /// <param name="Exit">The corner of the area there.</param>
    private readonly record struct OnWay(Area Area, int Way, double From, Point Entry, double To, Point Exit)
    {
        public static OnWay Of(Area area, List<MeasuredLine> ways)
        {
            var corners = area.Corners.ToList();
            var (way, near) = ways.Select((w, i) => (Way: i, Near: corners.ConvertAll(c => w.Nearest(c) is var at ? (Corner: c, At: at, Off: w.PointAt(at).DistanceTo(c)) : default))).MinBy(w => w.Near.Min(n => n.Off));
            var least = near.Min(n => n.Off);
            var touching = near.Where(n => n.Off <= least + OnIt).ToList();
            var (entry, exit) = (touching.MinBy(n => n.At), touching.MaxBy(n => n.At));

            // What only ends at the line, as a leaf does, is left where it was begun.
            if (exit.At - entry.At < ShortestPassage) entry = exit = near.MinBy(n => n.Off);
            return new(area, least <= FarthestFromWay ? way : -1, entry.At, entry.Corner, exit.At, exit.Corner);
        }
    }

    /// <summary>Needle points from a place beside a line along it to a place beside it, without both.</summary>
    private static IEnumerable<Point> Between(Point from, MeasuredLine way, double at, double to, Point goal)
    {
        if (from.DistanceTo(goal) < Limits.RunStitch) return [];
        return RunLine.Along([from, .. way.Between(at, to), goal]).Skip(1).SkipLast(1).Where(p => p.DistanceTo(from) >= Limits.ShortestStitch && p.DistanceTo(goal) >= Limits.ShortestStitch);
    }

    private static Sewer OfArea(Area area, StitchSettings settings, ClothProfile cloth)
    {
        Sewer sew = settings.Way switch
        {
            StitchWay.Satin => OfSatin(area, Style(settings, cloth, StitchWay.Satin)),

            // A spacing set by hand is that of the rows; the satin between them has its own.
            StitchWay.Automatic => (start, end) => new MixedSewing(area, Rows(settings, cloth), FillLayers(settings, cloth), Style(settings with { SpacingMm = settings.SatinSpacingMm }, cloth, StitchWay.Satin)).Sew(start, end),
            _ => (start, end) => FillSewing.Sew(area, Rows(settings, cloth), FillLayers(settings, cloth), start, end),
        };

        // A dot is one stitch also where throws would be too many needle points for it.
        return (start, end) => sew(start, end) is { Count: > 1 } run && !(Dot.IsOf(area) && CrowdedPoints.Most(Ties.Tied(run)) > CrowdedPoints.Harmless) ? run : Dot.Across(area, start);
    }

    /// <summary>Satin over an area, whose strokes are laid out once however often it is sewn.</summary>
    private static Sewer OfSatin(Area area, SatinStyle style)
    {
        var layout = new Lazy<StrokeLayout>(() => StrokeLayout.Of(area, style));
        return (start, end) => SatinSewing.Sew(area, layout.Value, style, start, end);
    }

    private static RowFill Rows(StitchSettings settings, ClothProfile cloth)
    {
        var angle = settings.Angle ?? StitchSettings.UsualAngle;
        var tile = settings.Way == StitchWay.PatternedFill ? Tiles.Find(settings.Tile) ?? Tiles.All[0] : null;
        return new(angle)
        {
            SpacingMm = settings.SpacingMm ?? cloth.FillSpacingMm,
            StitchMm = settings.StitchLengthMm ?? Limits.FillStitch,
            CompensationMm = settings.CompensationMm ?? cloth.CompensationMm,
            Tile = tile is null ? null : new(tile, settings.TileScale ?? 1, settings.TileAngle ?? angle),
        };
    }

    private static IReadOnlyList<Underlay> FillLayers(StitchSettings settings, ClothProfile cloth) => (settings.Underlay ?? cloth.FillUnderlay).Sewn;

    private static SatinStyle Style(StitchSettings settings, ClothProfile cloth, StitchWay way) =>
        new(settings.SpacingMm ?? StitchSettings.SpacingOn(cloth, way), settings.CompensationMm ?? cloth.CompensationMm)
        {
            // A spacing that was typed is kept to.
            NarrowLooser = settings.SpacingMm is null ? NarrowLooser : 0,
            BroadStroke = settings.StrokeMm,
            KeepsWidth = way == StitchWay.LineSatin,
            Underlay = (settings.Underlay ?? cloth.SatinUnderlay).Sewn,
        };

    /// <summary>A line as it is sewn: a closed one comes back to where it begins, the point nearest to the wanted start.</summary>
    private static List<Point> Begun(List<Point> points, bool closed, Point? start)
    {
        if (start is not { } from) return closed ? [.. points, points[0]] : points;
        if (!closed) return points[0].DistanceTo(from) <= points[^1].DistanceTo(from) ? points : [.. points.AsEnumerable().Reverse()];
        var first = Enumerable.Range(0, points.Count).MinBy(i => points[i].DistanceTo(from));
        return [.. points[first..], .. points[..first], points[first]];
    }

    /// <summary>Out along lines in a run, and back over it in throws as wide as the pen; where that is too fine for satin in another run, beside the first.</summary>
    private static List<Point> OutAndBack(IReadOnlyList<LineTour.Leg> tour, StitchSettings settings, ClothProfile cloth)
    {
        var width = settings.WidthMm ?? StitchSettings.UsualWidth;
        var satin = settings.Way == StitchWay.LineSatin || (settings.Way.HasThrows() && width >= StitchSettings.FinestSatin);
        var aside = width < StitchSettings.FinestSatin && settings.Way is not (StitchWay.TripleRun or StitchWay.MotifRow) ? (width / 2) - WithinPen : 0;
        var run = new List<Point>();
        for (var i = 0; i < tour.Count;)
        {
            // Legs of one kind that follow each other are one line.
            var (line, back) = (new List<Point>(Beside(tour[i], aside)), tour[i].Back);
            for (i++; i < tour.Count && tour[i].Back == back; i++) line.AddRange(Beside(tour[i], aside).Skip(1));
            var points = back && satin
                ? PenSatin.Along(line, width + (2 * Math.Min(settings.CompensationMm ?? cloth.CompensationMm, width * MostPenCompensation)), settings.SpacingMm ?? StitchSettings.SpacingOn(cloth, StitchWay.Satin))
                : satin ? OfLine(line, settings) : OfLine(line, settings, PenChordError, PenStitch);
            run.AddRange(run.Count > 0 && run[^1].DistanceTo(points[0]) < Limits.ShortestStitch / 2 ? points.Skip(1) : points);
        }

        return run;
    }

    /// <summary>A leg a little to the side, mm, on the way back to the other; at both ends it is where it was. A ring goes outside on the way out and inside on the way back.</summary>
    private static IReadOnlyList<Point> Beside(LineTour.Leg leg, double aside)
    {
        if (aside <= 0 || Polylines.Length(leg.Line) < 2 * ComingTogether) return leg.Line;
        var line = new MeasuredLine([.. Polylines.InPieces(leg.Line, closed: false, ComingTogether / 2)]);
        var isRing = leg.Line[0].DistanceTo(leg.Line[^1]) < LineTour.Meeting;
        var side = isRing && leg.Back == Polylines.IsClockwise(leg.Line) ? -aside : aside;
        return Polylines.Offset(line.Points, part => line.AlongAt((int)Math.Round(part * (line.Points.Length - 1))) is var at ? side * Math.Clamp(Math.Min(at, line.Length - at) / ComingTogether, 0, 1) : 0);
    }

    private static List<Point> OfLine(List<Point> line, StitchSettings settings, double chordError = Limits.ChordError, double shortest = Limits.ShortestCurveStitch) => settings.Way switch
    {
        StitchWay.TripleRun => RunLine.Tripled(RunLine.Along(line, settings.StitchLengthMm ?? Limits.RunStitch)),
        StitchWay.MotifRow => MotifRow.Along(line, Motifs.Find(settings.Motif) ?? Motifs.All[0], settings.MotifLengthMm ?? StitchSettings.UsualMotifLength, settings.MotifTurn),
        _ => RunLine.Along(line, settings.StitchLengthMm ?? Limits.RunStitch, chordError, shortest),
    };
}
