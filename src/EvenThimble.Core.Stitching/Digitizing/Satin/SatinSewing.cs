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
    private const double PatchAngle = 45;

    /// <summary>The needle points of one connected area.</summary>
    /// <param name="area">One connected area.</param>
    /// <param name="style">How it is thrown.</param>
    /// <param name="start">Where the needle comes from; null: wherever is best.</param>
    /// <param name="end">Near where it should end; null: wherever is best.</param>
    public static List<Point> Sew(Area area, SatinStyle style, Point? start = null, Point? end = null) => Sew(area, StrokeLayout.Of(area, style), style, start, end);

    /// <summary>The same of an area whose strokes are laid out already.</summary>
    internal static List<Point> Sew(Area area, StrokeLayout layout, SatinStyle style, Point? start, Point? end) =>
        layout.Strokes.Count == 0 ? Filled(area, style, start, end) : new Sewing(area, layout, style).Sew(start, end);

    /// <summary>Rows where no throw reaches.</summary>
    private static List<Point> Filled(Area area, SatinStyle style, Point? start, Point? end) =>
        FillSewing.Sew(area, new RowFill(PatchAngle) { SpacingMm = style.SpacingMm, CompensationMm = style.CompensationMm }, [], start, end);

    /// <summary>A stroke that joins another one.</summary>
    /// <param name="Other">The stroke at the other side.</param>
    /// <param name="At">How far along this stroke, mm.</param>
    /// <param name="AtOther">How far along the other, mm.</param>
    private readonly record struct Joint(int Other, double At, double AtOther);

    private sealed class Sewing
    {
        private const double WayStitch = 2.2;
        private const double EdgeInset = 0.45;
        private const double WideEnoughForEdges = 3.0;
        private const double WideEnoughForZigzag = 3.0;
        private const double ZigzagStep = 1.8;
        private const double RingOverlap = 0.5;

        // The first tie lies this far from the last, so that they do not crowd one place.
        private const double TieApart = 2.0;
        private const double AtEnd = 1.0;
        private const int MostRoots = 12;
        private readonly Area _area;
        private readonly StrokeLayout _layout;
        private readonly List<StrokeRungs> _strokes;
        private readonly List<Joint>[] _joints;
        private readonly SatinStyle _style;
        private readonly List<Point> _run = [];
        private readonly bool[] _sewn;
        private RowSections? _ways;

        public Sewing(Area area, StrokeLayout layout, SatinStyle style)
        {
            var strokes = layout.Strokes;
            (_area, _layout, _strokes, _style) = (area, layout, strokes, style);
            _joints = [.. strokes.Select(_ => new List<Joint>())];
            _sewn = new bool[strokes.Count];
            for (var i = 0; i < strokes.Count; i++)
            {
                if (!strokes[i].Source.Start.IsFree) Join(i, 0, strokes[i].Source.Start.Other);
                if (!strokes[i].Source.End.IsFree) Join(i, strokes[i].Length, strokes[i].Source.End.Other);
            }
        }

        public List<Point> Sew(Point? start, Point? end)
        {
            var (root, at) = Root(end, start);
            if (start is { } s) _run.Add(s);
            Patches(_strokes[root].Line.PointAt(at));
            var (first, length) = (at, _strokes[root].Length);
            if (start is null && _run.Count == 0) first = at + (Math.Min(TieApart, length / 4) * (at < length / 2 ? 1 : -1));
            Go(_strokes[root].Line.PointAt(first));
            if (_run.Count == 0) _run.Add(_strokes[root].Line.PointAt(first));
            Visit(root, at, first, end);

            // Strokes that no joint leads to are reached by a way inside the area.
            for (var i = 0; i < _strokes.Count; i++)
            {
                if (_sewn[i]) continue;
                var to = _strokes[i].Line.Nearest(_run[^1]);
                Go(_strokes[i].Line.PointAt(to));
                Visit(i, to);
            }

            return _run;
        }

        /// <summary>Fills what no throw reaches, before all else: each patch ends where the next is near, for what is sewn across it shows.</summary>
        private void Patches(Point then)
        {
            var left = _layout.Bare.Places.ToList();
            var next = left.Count == 0 ? null : left.MinBy(p => p.DistanceTo(_run.Count == 0 ? p.InnerPlace : _run[^1]));
            while (next is { } patch)
            {
                left.Remove(patch);
                var nearest = patch.Corners.MinBy(p => _run.Count == 0 ? 0 : p.DistanceTo(_run[^1]));
                next = left.MinBy(p => p.DistanceTo(patch.InnerPlace));
                var goal = next?.InnerPlace ?? then;
                Go(nearest);
                FillSewing.Append(_run, Filled(patch, _style, nearest, patch.Corners.MinBy(goal.DistanceTo)));
            }
        }

        private void Go(Point to)
        {
            if (_run.Count == 0 || _run[^1].DistanceTo(to) < Limits.ShortestStitch) return;
            _ways ??= new RowSections(_area, 0, Limits.FillSpacing);
            Along(_ways.Way(_run[^1], to));
        }

        private void Join(int joining, double at, int owner)
        {
            // A stroke may come back to itself, as the bow of a loop does: there the ways need no joint.
            if (owner == joining) return;
            if (_joints[joining].Exists(j => j.Other == owner && Math.Abs(j.At - at) < 1)) return;
            var there = _strokes[owner].Line.Nearest(_strokes[joining].Line.PointAt(at));
            _joints[joining].Add(new(owner, at, there));
            _joints[owner].Add(new(joining, there, at));
        }

        /// <summary>The stroke to be finished last, and where along it the needle enters and so ends.</summary>
        private (int Stroke, double At) Root(Point? end, Point? start)
        {
            if ((end ?? start) is { } wanted)
            {
                var best = Enumerable.Range(0, _strokes.Count)
                    .Select(i => (Stroke: i, At: _strokes[i].Line.Nearest(wanted)))
                    .MinBy(c => _strokes[c.Stroke].Line.PointAt(c.At).DistanceTo(wanted));
                var length = _strokes[best.Stroke].Length;

                // From an end it is sewn in one go; where only the start is given it ends at the far end if that costs nothing.
                if (_strokes[best.Stroke].Closed || (end is not null && best.At > 0.15 * length && best.At < 0.85 * length)) return best;
                return (best.Stroke, best.At < length / 2 ? 0 : length);
            }

            // From which stroke, and which of its ends, the fewest things go wrong; of the longest that are there.
            return Enumerable.Range(0, _strokes.Count).OrderByDescending(i => _strokes[i].Length).Take(MostRoots)
                .SelectMany(i => new[] { (Stroke: i, At: 0.0), (Stroke: i, At: _strokes[i].Length) })
                .MinBy(r => Faults(r.Stroke, r.At));
        }

        /// <summary>What goes wrong when a stroke is entered at an end: strokes that lie on what they should tuck under, and strokes that are sewn from the middle to both sides.</summary>
        private double Faults(int root, double at)
        {
            var (faults, reached, queue) = (0.0, new bool[_strokes.Count], new Queue<(int Stroke, double At)>());
            reached[root] = true;
            queue.Enqueue((root, at));
            while (queue.TryDequeue(out var next))
            {
                var stroke = _strokes[next.Stroke];
                var fromStart = next.At < stroke.Length / 2;
                if (!stroke.Closed && next.At > AtEnd && next.At < stroke.Length - AtEnd) faults += 1;

                // A stroke that ends on itself has to begin its satin there.
                else if ((fromStart ? stroke.Source.Start : stroke.Source.End) is { Tucks: true } end && end.Other == next.Stroke) faults += 1.5;
                foreach (var joint in _joints[next.Stroke])
                {
                    if (reached[joint.Other]) continue;
                    reached[joint.Other] = true;
                    if (TucksUnder(next.Stroke, joint.Other)) faults += 0.8;
                    queue.Enqueue((joint.Other, joint.AtOther));
                }
            }

            return faults;
        }

        private bool TucksUnder(int stroke, int other) => _strokes[stroke].Source is var s && ((s.Start.Tucks && s.Start.Other == other) || (s.End.Tucks && s.End.Other == other));

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

            if (at > AtEnd && at < stroke.Length - AtEnd)
            {
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
            foreach (var joint in _joints[number].Where(j => Between(j.At, from, to)).OrderBy(j => Math.Abs(j.At - from)).ToList()) at = Detour(number, at, joint);
            Out(stroke, at, to);
            var (low, high) = (Math.Min(from, to), Math.Max(from, to));

            // Where a stroke is sewn from the middle to both sides, the sides overlap by a throw.
            var half = _style.SpacingMm * 0.75;
            var rungs = stroke.Rungs.Where(r => r.At >= low - half && r.At <= high + half).ToList();
            if (to > from) rungs.Reverse();

            // The last throw ends at the side that the way goes on from.
            if (leaving is { } way && rungs.Count > 0 && rungs[^1].Left.DistanceTo(way) < rungs[^1].Right.DistanceTo(way)) rungs = rungs.ConvertAll(r => r.Turned());
            Under(rungs);
            SatinThrows.Add(_run, rungs, _style);
        }

        private void Ring(int number, double from, double begun)
        {
            var stroke = _strokes[number];
            var at = begun;
            foreach (var joint in _joints[number].OrderBy(j => Ahead(j.At)).ToList()) at = Detour(number, at, joint);
            Around(stroke, at, Ahead(at) > stroke.Length - 0.01 ? 0 : stroke.Length - Ahead(at));
            var rungs = stroke.Rungs.OrderBy(r => Ahead(r.At)).ToList();
            rungs.AddRange(rungs.TakeWhile(r => Ahead(r.At) < RingOverlap).ToList());
            rungs.Reverse();
            Under(rungs);
            SatinThrows.Add(_run, rungs, _style);

            double Ahead(double place) => ((place - from) % stroke.Length + stroke.Length) % stroke.Length;
        }

        /// <summary>Goes on to a joint and into the stroke there, unless that is sewn or being sewn.</summary>
        private double Detour(int number, double at, Joint joint)
        {
            if (_sewn[joint.Other]) return at;
            var stroke = _strokes[number];
            if (stroke.Closed) Around(stroke, at, ((joint.At - at) % stroke.Length + stroke.Length) % stroke.Length);
            else Out(stroke, at, joint.At);
            var here = stroke.Line.PointAt(joint.At);
            Visit(joint.Other, joint.AtOther, leaving: here);
            To(here);
            return joint.At;
        }

        private static bool Between(double at, double from, double to) => at >= Math.Min(from, to) - 1e-6 && at <= Math.Max(from, to) + 1e-6;

        private void Out(StrokeRungs stroke, double from, double to) => Along(stroke.Line.Between(from, to));

        private void Around(StrokeRungs stroke, double from, double by)
        {
            if (by <= 1e-6) return;
            var to = from + by;
            if (to <= stroke.Length) Along(stroke.Line.Between(from, to));
            else
            {
                var line = stroke.Line.Between(from, stroke.Length);
                line.AddRange(stroke.Line.Between(0, to - stroke.Length));
                Along(line);
            }
        }

        /// <summary>Straight on to a place, or by a way inside the area where the straight line leaves it.</summary>
        private void To(Point place)
        {
            var way = place - _run[^1];
            if (_layout.Outline.Hit(_run[^1], way.Unit()) is { } wall && wall < way.Length) Go(place);
            else Along([_run[^1], place]);
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
