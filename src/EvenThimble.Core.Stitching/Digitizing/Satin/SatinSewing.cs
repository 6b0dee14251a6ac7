using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Satin over an area, in one unbroken run inside it. Strokes are visited as a tree: along the middle of a stroke to its end, on the way there into the strokes that join it, and back
/// in satin; so every way is covered.
/// </summary>
public static class SatinSewing
{
    // For one from which no way is seen that finishing could not hide, mm, and nothing is crowded, so many roots are tried; of what is large, fewer: no more once so many needle points were sewn.
    // A light fault finishing mends as often as another root does: after so many more in vain no others are tried, of any fault after some more; nor after so many on end with the same fault in the same place, mm.
    private const double Slight = 0.1;
    private const double Light = 0.16;
    private const int InVainIfLight = 3;
    private const int InVain = 5;
    private const int SameOnEnd = 4;
    private const double SamePlace = 0.3;
    private const int MostTries = 8;
    private const int MostTried = 30_000;

    // To be rid of a heap no more than so many needle points are sewn again, for of what is large a tie is little, and so many runs finished: those with the least thread on a mm². Where that differs by less
    // than so much it is taken for the same heap, mm.
    private const int MostSewnAgain = 12_000;
    private const int MostFinished = 3;
    private const double SameHeap = 0.03;

    /// <summary>The needle points of one connected area.</summary>
    /// <param name="area">One connected area.</param>
    /// <param name="style">How it is thrown.</param>
    /// <param name="start">Where the needle comes from; null: wherever is best.</param>
    /// <param name="end">Near where it should end; null: wherever is best.</param>
    public static List<Point> Sew(Area area, SatinStyle style, Point? start = null, Point? end = null) => Sew(area, StrokeLayout.Of(area, style), style, start, end);

    /// <summary>The same of an area whose strokes are laid out already.</summary>
    internal static List<Point> Sew(Area area, StrokeLayout layout, SatinStyle style, Point? start, Point? end)
    {
        if (layout.Strokes.Count == 0) return Patch.Rows(area, style, start, end);
        var (tree, finishing) = (new StrokeTree(layout), new Finishing(area, layout, style));
        var patches = layout.Bare.Places.Select(p => new Patch(p, layout.Strokes, style)).ToLookup(p => p.Stroke);
        var roots = tree.Roots(end, start).Take(MostTries).ToList();
        var tries = roots.ConvertAll(r => (r.Stroke, r.At, PatchesLast: false));

        // Where a way lies over a patch in each of them, patches come after all ways along their stroke.
        if (patches.Count > 0) tries.AddRange(roots.Take(MostTries / 2).Select(r => (r.Stroke, r.At, PatchesLast: true)));
        var (runs, best, least, alone, tried, last, same) = (new List<Point>[tries.Count], 0, double.PositiveInfinity, default(LonePiece?), 0, default(LonePiece?), 0);
        for (var i = 0; i < tries.Count && least > Slight && tried <= MostTried && i - best <= (least > Light ? InVain : InVainIfLight) && same < SameOnEnd; i++)
        {
            runs[i] = From(i);
            var (faults, piece) = tries.Count == 1 ? (0, null) : finishing.Faults(runs[i]);
            (same, last) = (piece is { } now && last is { } before && now.Length >= before.Length && now.Middle.DistanceTo(before.Middle) < SamePlace ? same + 1 : 1, piece);
            if (faults < least) (best, least, alone) = (i, faults, piece);
            tried += runs[i].Count;
        }

        var run = runs[best].ToList();
        if (!style.Closes || run.Count < 2) return finishing.Closed(run);
        var heavy = new List<(List<Point> Run, double Heaped)>();
        var heaped = Finish(run, alone);
        return heaped > 0 ? LessHeaped(run, heaped) : run;

        // What is heaped still is thinned out more; it is remembered as it was.
        double Finish(List<Point> run, LonePiece? alone)
        {
            var much = finishing.Finish(run, alone);
            if (much == 0) return 0;
            heavy.Add(([.. run], much));
            return finishing.ThinMore(run, HeapedThread.Lenient);
        }

        // What is heaped even when it is finished is heaped for the most part where a tie lies on a joint: from another root it lies elsewhere.
        List<Point> LessHeaped(List<Point> finished, double heaped)
        {
            // With as much thread it is the same heap.
            var (seen, others) = (new List<double> { HeapMap.MostOf(Ties.Tied(runs[best]), isRough: true) }, new List<(List<Point> Run, double Most)>());
            var (least, sewn) = (heaped + finishing.Faults(finished).Faults, 0);
            for (var i = 0; i < tries.Count && sewn <= MostSewnAgain && heaped > 0; i++)
            {
                if (i == best) continue;
                runs[i] ??= From(i);
                sewn += runs[i].Count;
                others.Add((runs[i], HeapMap.MostOf(Ties.Tied(runs[i]), isRough: true)));

                // What is not heaped even before it is finished is what is looked for.
                if (others[^1].Most < HeapedThread.Harmful) Try(others[^1]);
            }

            foreach (var other in others.OrderBy(o => o.Most).TakeWhile(_ => heaped > 0)) Try(other);

            // Last of all still more is thinned out of what was remembered, the least heaped first.
            foreach (var (thinned, _) in heavy.OrderBy(h => h.Heaped).TakeWhile(_ => heaped > 0)) Take(thinned, finishing.ThinMore(thinned, HeapedThread.MostLenient));
            return finished;

            void Try((List<Point> Run, double Most) other)
            {
                if (seen.Count > MostFinished || seen.Exists(m => Math.Abs(m - other.Most) < SameHeap)) return;
                seen.Add(other.Most);
                Take(other.Run, Finish(other.Run, null));
            }

            void Take(List<Point> run, double more)
            {
                if (more < least && more + finishing.Faults(run).Faults is var faults && faults < least) (finished, least, heaped) = (run, faults, more);
            }
        }

        List<Point> From(int number) => new Sewing(layout, style, tree, finishing, patches, tries[number].PatchesLast).Sew(tries[number].Stroke, tries[number].At, start, end);
    }

    /// <summary>What is sewn on the way along a stroke: a stroke that is entered there, or a patch.</summary>
    private readonly record struct Stop(double At, Joint? Joint, Patch? Patch);

    private sealed class Sewing
    {
        private const double WayStitch = 2.2;
        private const double EdgeInset = 0.45;
        private const double WideEnoughForEdges = 3.0;
        private const double WideEnoughForZigzag = 3.0;
        private const double ZigzagStep = 1.8;
        private const double RingOverlap = 0.5;

        // So many places to which the way goes back from a patch are looked at.
        private const int WaysBack = 5;

        // A way that lies no farther from a throw is covered by it, mm.
        private const double OnThrow = 0.2;

        // The first tie lies this far from the last, or so much of a short stroke, that they do not crowd one place; where that is less than the third, on another stroke.
        private const double TieApart = 2.0;
        private const double TieWithin = 0.5;
        private const double LeastTieApart = 1.1;

        private readonly StrokeLayout _layout;
        private readonly List<StrokeRungs> _strokes;
        private readonly StrokeTree _tree;
        private readonly Finishing _finishing;
        private readonly SatinStyle _style;
        private readonly List<Point> _run = [];
        private readonly bool[] _sewn;
        private readonly ILookup<int, Patch> _patches;
        private readonly bool _patchesLast;
        private readonly HashSet<Patch> _patched = [];
        private List<Joint>[] _into = [];

        public Sewing(StrokeLayout layout, SatinStyle style, StrokeTree tree, Finishing finishing, ILookup<int, Patch> patches, bool patchesLast)
        {
            (_layout, _strokes, _style, _tree, _finishing, _patches, _patchesLast) = (layout, layout.Strokes, style, tree, finishing, patches, patchesLast);
            _sewn = new bool[_strokes.Count];
        }

        /// <summary>Sews all, with a stroke that is finished last, from where along it the needle enters, mm.</summary>
        public List<Point> Sew(int root, double at, Point? start, Point? end)
        {
            _into = _tree.From(root, at).Into;
            if (start is { } s) _run.Add(s);
            var (first, length) = (at, _strokes[root].Length);
            if (start is null && length * TieWithin < LeastTieApart && AwayFrom(_strokes[root].Line.PointAt(at)) is { } away) _run.Add(away);
            if (start is null) first = at + (Math.Min(TieApart, length * TieWithin) * (at < length / 2 ? 1 : -1));
            if (_run.Count == 0) _run.Add(_strokes[root].Line.PointAt(first));
            else To(_strokes[root].Line.PointAt(first));

            // What is drawn is seen, and so it is drawn from its end.
            if (FineStrokes.IsDrawn(_strokes[root], at, first))
            {
                Along(_strokes[root].Line.Between(first, at));
                first = at;
            }

            Visit(root, at, first, end);

            // Strokes that no joint leads to are reached by a way inside the area.
            for (var i = 0; i < _strokes.Count; i++)
            {
                if (_sewn[i]) continue;
                var to = _strokes[i].Line.Nearest(_run[^1]);
                To(_strokes[i].Line.PointAt(to));
                Visit(i, to);
            }

            _finishing.StayInside(_run);
            return _run;
        }

        /// <summary>Of the middles of strokes the nearest that is far enough from a place for a tie of its own: a way from there is covered by all that is sewn after it. Null where none is.</summary>
        private Point? AwayFrom(Point place) => _strokes.Select(s => (Point?)s.Line.PointAt(s.Length / 2)).Where(p => p!.Value.DistanceTo(place) >= LeastTieApart).MinBy(p => p!.Value.DistanceTo(place));

        private void Go(Point to)
        {
            if (_run.Count == 0 || _run[^1].DistanceTo(to) < Limits.ShortestStitch) return;
            Along(_layout.Ways.Way(_run[^1], to));
        }

        /// <summary>Sews a stroke that is entered at a place along it, and all that lies beyond; the needle comes back to that place. The very first may be begun a little farther on.</summary>
        private void Visit(int number, double at, double? begun = null, Point? leaving = null)
        {
            WorkBudget.CheckDepth();
            WorkBudget.Current.Spend(_strokes[number].Rungs.Count);
            _sewn[number] = true;
            var stroke = _strokes[number];
            if (begun is null) To(stroke.Line.PointAt(at));
            if (stroke.Closed)
            {
                Ring(number, at, begun ?? at);
                return;
            }

            if (!StrokeTree.IsAtEnd(stroke, at))
            {
                // What joins close by on the side that is sewn last comes before the first, which would lie under the way there.
                var back = at;
                foreach (var stop in Stops(number, place => at - place).Where(s => s.At < at && s.At > at - stroke.Width)) back = Detour(number, back, stop, 0, stroke.Length);
                Out(stroke, back, at);
                Side(number, at, stroke.Length);
                Side(number, at, 0, leaving: leaving);
            }
            else
            {
                // From near an end it is sewn from that end.
                var (from, to) = at <= stroke.Length / 2 ? (0.0, stroke.Length) : (stroke.Length, 0.0);
                if (begun is null) To(stroke.Line.PointAt(from));
                Side(number, from, to, begun, leaving);
            }
        }

        /// <summary>Out along the middle with what joins on the way, underlay, and back in satin.</summary>
        private void Side(int number, double from, double to, double? begun = null, Point? leaving = null)
        {
            var stroke = _strokes[number];
            var at = begun ?? from;
            var (low, high) = (Math.Min(from, to), Math.Max(from, to));
            foreach (var stop in Stops(number, at => Math.Abs(at - from)).Where(s => Between(s.At, from, to))) at = Detour(number, at, stop, low, high);

            // Where a stroke is sewn from the middle to both sides, the sides overlap by a throw.
            var half = _style.SpacingMm * 0.75;
            var rungs = stroke.Rungs.Where(r => r.At >= low - half && r.At <= high + half).ToList();
            if (to > from) rungs.Reverse();
            Out(stroke, at, OwnEnd(stroke, rungs) ?? to);

            // The last throw ends at the side that the way goes on from.
            if (leaving is { } way && rungs.Count > 0 && rungs[^1].Left.DistanceTo(way) < rungs[^1].Right.DistanceTo(way)) rungs = rungs.ConvertAll(r => r.Turned());
            Under(rungs);
            SatinThrows.Add(_run, rungs, _style);
        }

        /// <summary>How far along its middle a stroke is its own, mm: beyond, where that goes on under a neighbour, a way would lie on what is finished. Null where it is its own, or drawn, to its end.</summary>
        /// <param name="stroke">The stroke.</param>
        /// <param name="rungs">Its throws, from that end on.</param>
        private static double? OwnEnd(StrokeRungs stroke, List<Rung> rungs)
        {
            var own = rungs.FindIndex(r => r.Aside is not null || stroke.Line.PointAt(r.At).DistanceToLine(r.Left, r.Right) < OnThrow);
            return own >= 0 && rungs[own].Aside is null ? rungs[own].At : null;
        }

        private void Ring(int number, double from, double begun)
        {
            var stroke = _strokes[number];
            var at = begun;
            foreach (var stop in Stops(number, Ahead)) at = Detour(number, at, stop, stop.At, stop.At);
            Around(stroke, at, Ahead(at) > stroke.Length - 0.01 ? 0 : stroke.Length - Ahead(at));
            var rungs = stroke.Rungs.OrderBy(r => Ahead(r.At)).ToList();
            rungs.AddRange(rungs.TakeWhile(r => Ahead(r.At) < RingOverlap).ToList());
            rungs.Reverse();
            Under(rungs);
            SatinThrows.Add(_run, rungs, _style);

            double Ahead(double place) => ((place - from) % stroke.Length + stroke.Length) % stroke.Length;
        }

        /// <summary>What is sewn on the way along a stroke, in order: the strokes entered from it, and the patches beside it; a patch after strokes that are entered close to it, or after all, for their way may lead across. Around a ring there is no way back.</summary>
        private List<Stop> Stops(int number, Func<double, double> ahead)
        {
            var (length, later) = (_strokes[number].Length, _strokes[number].Closed ? 0 : _strokes[number].Width);
            return [.. _into[number].Select(j => new Stop(j.At, j, null)).Concat(_patches[number].Select(p => new Stop(p.At, null, p))).OrderBy(Turn)];

            // Those that come after all are sewn on the way back.
            double Turn(Stop s) => s.Patch is null ? ahead(s.At) : _patchesLast && !_strokes[number].Closed ? (2 * length) - ahead(s.At) : ahead(s.At) + later;
        }

        /// <summary>Goes on along a stroke to a stop, sews what is there unless it is sewn or being sewn, and comes back to the stroke.</summary>
        /// <param name="number">The stroke.</param>
        /// <param name="at">How far along it the needle is, mm.</param>
        /// <param name="stop">What is sewn.</param>
        /// <param name="low">From where along the stroke it is not covered yet, mm.</param>
        /// <param name="high">Up to where, mm.</param>
        /// <returns>How far along it the needle is then, mm.</returns>
        private double Detour(int number, double at, Stop stop, double low, double high)
        {
            if (stop.Joint is { } j ? _sewn[j.Other] : !_patched.Add(stop.Patch!)) return at;
            var stroke = _strokes[number];
            if (stroke.Closed) Around(stroke, at, ((stop.At - at) % stroke.Length + stroke.Length) % stroke.Length);
            else Out(stroke, at, stop.At);
            var here = stroke.Line.PointAt(stop.At);
            if (stop.Joint is { } joint)
            {
                Visit(joint.Other, joint.AtOther, leaving: here);
                if (!_layout.IsStraight(_run[^1], here) && _strokes[joint.Other].Line.PointAt(joint.AtOther) is var middle && _layout.IsStraight(middle, here)) To(middle);
            }
            else if (stop.Patch is { } patch)
            {
                var entry = patch.Entry(here);
                To(entry);
                FillSewing.Append(_run, patch.Sew(entry, here));

                // Back to where the stroke was left for it, or to another place along the stroke to which the way does not lie across its rows.
                var nearest = Math.Clamp(stroke.Line.Nearest(_run[^1]), low, high);
                var back = Enumerable.Range(0, WaysBack).Select(k => stop.At + ((nearest - stop.At) * k / (WaysBack - 1))).MinBy(b => patch.Crossed(_run[^1], stroke.Line.PointAt(b)));
                To(stroke.Line.PointAt(back));
                return back;
            }

            To(here);
            return stop.At;
        }

        private static bool Between(double at, double from, double to) => at >= Math.Min(from, to) - 1e-6 && at <= Math.Max(from, to) + 1e-6;

        private void Out(StrokeRungs stroke, double from, double to)
        {
            foreach (var (line, isDrawn) in FineStrokes.Way(stroke, from, to))
            {
                if (isDrawn) SatinThrows.Draw(_run, line, _style.LongestThrow);
                else Along(line);
            }
        }

        private void Around(StrokeRungs stroke, double from, double by)
        {
            if (by <= 1e-6) return;
            var to = from + by;
            Out(stroke, from, Math.Min(to, stroke.Length));
            if (to > stroke.Length) Out(stroke, 0, to - stroke.Length);
        }

        /// <summary>Straight on to a place, or by a way inside the area where the straight line leaves it.</summary>
        private void To(Point place)
        {
            if (_layout.IsStraight(_run[^1], place)) Along([_run[^1], place]);
            else Go(place);
        }

        private void Along(List<Point> way)
        {
            if (_run.Count > 0 && _run[^1] != way[0]) way.Insert(0, _run[^1]);
            foreach (var p in RunLine.Along(way, WayStitch).Skip(_run.Count == 0 ? 0 : 1)) SatinThrows.Append(_run, p);
        }

        /// <summary>Underlay along rungs, there and back again: it ends where it begins.</summary>
        private void Under(List<Rung> rungs)
        {
            if (rungs.Count < 4) return;
            var widest = rungs.Select(r => r.Width).Order().ElementAt(rungs.Count / 2);
            foreach (var layer in _style.Underlay)
            {
                if (layer == Underlay.Edge && widest > WideEnoughForEdges)
                {
                    Along([_run[^1], .. rungs.Select(r => Inset(r.Left, r.Right))]);
                    Along([_run[^1], .. rungs.AsEnumerable().Reverse().Select(r => Inset(r.Right, r.Left))]);
                }
                else if (layer is Underlay.Zigzag or Underlay.Light && widest > WideEnoughForZigzag)
                {
                    Zigzag(rungs, 0);
                    Along([_run[^1], .. rungs.AsEnumerable().Reverse().Select(r => r.Left.Toward(r.Right, 0.5))]);
                }
                else if (layer == Underlay.DoubleZigzag && widest > WideEnoughForZigzag)
                {
                    Zigzag(rungs, 0);
                    Zigzag([.. rungs.AsEnumerable().Reverse()], 1);
                }
            }
        }

        private void Zigzag(List<Rung> rungs, int side)
        {
            var last = double.NegativeInfinity;
            foreach (var r in rungs)
            {
                if (Math.Abs(r.At - last) < ZigzagStep) continue;
                last = r.At;
                var to = side++ % 2 == 0 ? Inset(r.Left, r.Right) : Inset(r.Right, r.Left);
                var pieces = Math.Max(1, (int)Math.Ceiling(_run[^1].DistanceTo(to) / 5));
                var from = _run[^1];
                for (var k = 1; k <= pieces; k++) SatinThrows.Append(_run, from.Toward(to, k / (double)pieces));
            }
        }

        private static Point Inset(Point edge, Point other)
        {
            var width = edge.DistanceTo(other);
            return edge.Toward(other, width < 1e-9 ? 0.5 : Math.Min(0.4, EdgeInset / width));
        }
    }
}
