using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Fill;

/// <summary>Fill of one connected area in rows, sewn without leaving it.</summary>
/// <param name="Angle">Direction of the rows, degrees clockwise from across.</param>
public sealed record RowFill(double Angle)
{
    private const double WayStitch = 2.5;

    // Row ends that would follow each other more closely are drawn in by turns, so that the needle does not cut the cloth along the edge.
    private const double ShortestAtEdge = Limits.ShortestStitch + 0.02;

    // Between the edges of a hole or notch that rows are lengthened into, this much stays open.
    private const double NarrowestGap = 0.3;

    /// <summary>Between rows, mm; a little less where that divides the area evenly.</summary>
    public double SpacingMm { get; init; } = Limits.FillSpacing;

    /// <summary>Stitch within a row, mm.</summary>
    public double StitchMm { get; init; } = Limits.FillStitch;

    /// <summary>Part of a stitch by which needle points are shifted from row to row.</summary>
    public double RowShift { get; init; } = Limits.RowShift;

    /// <summary>By how much rows are lengthened at each end, mm.</summary>
    public double CompensationMm { get; init; }

    /// <summary>Where needle points fall within the rows; null: evenly.</summary>
    public TilePattern? Tile { get; init; }

    /// <summary>
    /// The needle points, one unbroken run inside the area. Sections are visited as a tree: the way to all that lies beyond a section runs through it before it
    /// is filled, so that every way is covered by rows.
    /// </summary>
    /// <param name="area">One connected area.</param>
    /// <param name="start">Where the needle comes from; null: wherever is best.</param>
    /// <param name="end">Near where it should end; null: wherever is best.</param>
    public List<Point> Of(Area area, Point? start = null, Point? end = null) => Of(new RowSections(area, Angle, SpacingMm), start, end);

    internal List<Point> Of(RowSections sections, Point? start, Point? end) => new Sewing(this, sections).Sew(start, end);

    /// <summary>One sewing of an area; all places turned so that rows lie across.</summary>
    private sealed class Sewing(RowFill fill, RowSections area)
    {
        private readonly List<Point> _run = [];
        private readonly List<double> _needles = [];
        private Door[] _towards = [];
        private List<Door>[] _children = [];
        private (int Row, double X) _at;

        public List<Point> Sew(Point? start, Point? end)
        {
            var (root, fromTop, doorX) = Root(start, end);
            _towards = area.TreeFrom(root);
            _children = new List<Door>[area.Sections.Count];
            for (var i = 0; i < _children.Length; i++) _children[i] = [];
            for (var i = 0; i < _towards.Length; i++)
                if (i != root)
                    _children[_towards[i].To].Add(new(i, _towards[i].RowThere, _towards[i].XThere, _towards[i].Row, _towards[i].X));
            if (start is { } s) ComeFrom(area.Turned(s), root);
            Fill(root, fromTop, doorX, isRoot: true);
            return _run.ConvertAll(area.Unturned);
        }

        /// <summary>The section to be filled last, and the side (with the place along it) that its filling ends at.</summary>
        private (int Section, bool FromTop, double DoorX) Root(Point? start, Point? end)
        {
            if (end is { } e)
            {
                var (section, row) = area.Find(area.Turned(e));
                return (section, area.Sections[section].IsNearerToTop(row), area.Turned(e).X);
            }

            if (start is { } s)
            {
                var (section, row) = area.Find(area.Turned(s));
                return (section, !area.Sections[section].IsNearerToTop(row), area.Turned(s).X);
            }

            var largest = 0;
            for (var i = 1; i < area.Sections.Count; i++)
                if (area.Sections[i].Spans.Count > area.Sections[largest].Spans.Count)
                    largest = i;
            var l = area.Sections[largest];
            var fromTop = l.Doors.Count(d => d.Row == l.FirstRow) < l.Doors.Count(d => d.Row == l.LastRow);
            var span = l.At(fromTop ? l.FirstRow : l.LastRow);
            return (largest, fromTop, (span.From + span.To) / 2);
        }

        private void ComeFrom(Point start, int root)
        {
            var (section, row) = area.Find(start);
            _run.Add(start);
            _at = (row, area.Sections[section].At(row).Within(start.X));
            var way = new List<Point> { start };
            while (section != root)
            {
                var door = _towards[section];
                area.AddWay(way, section, _at, (door.Row, door.X));
                way.Add(new(door.XThere, area.Y(door.RowThere)));
                (section, _at) = (door.To, (door.RowThere, door.XThere));
            }

            Along(way);
        }

        /// <summary>Fills a section and all beyond it; the needle is at its door on one side, and comes back there.</summary>
        private void Fill(int section, bool fromTop, double doorX, bool isRoot)
        {
            WorkBudget.CheckDepth();
            var s = area.Sections[section];
            var (near, far) = fromTop ? (s.FirstRow, s.LastRow) : (s.LastRow, s.FirstRow);
            var children = _children[section].OrderBy(d => Math.Abs(d.Row - near)).ThenBy(d => Math.Abs(d.X - doorX)).ToList();
            foreach (var door in children)
            {
                Go(section, (door.Row, door.X));
                Step(door.RowThere, door.XThere);
                var child = area.Sections[door.To];
                Fill(door.To, child.IsNearerToTop(door.RowThere), door.XThere, isRoot: false);
                Step(door.Row, door.X);
            }

            Rows(section, near, far, doorX);
            if (!isRoot) Go(section, (_towards[section].Row, _towards[section].X));
        }

        private void Rows(int section, int near, int far, double doorX)
        {
            var s = area.Sections[section];
            var step = Math.Sign(near - far);
            var first = FirstSewn(far, step == 0 ? 1 : step);
            var count = 0;
            for (var r = first; InRange(r, near, far); r += step * RowSections.Fine)
            {
                count++;
                if (step == 0) break;
            }

            if (count == 0) return;
            var last = s.At(first + ((count - 1) * step * RowSections.Fine));
            var endsRight = Math.Abs(doorX - last.To) < Math.Abs(doorX - last.From);
            var rightwards = count % 2 == 1 ? endsRight : !endsRight;
            var begin = s.At(first);
            if (_run.Count > 0) Go(section, (first, begin.Within(rightwards ? begin.From : begin.To)));
            for (var k = 0; k < count; k++, rightwards = !rightwards)
            {
                var row = first + (k * step * RowSections.Fine);
                Row(section, row, rightwards);
                var span = s.At(row);
                _at = (row, span.Within(rightwards ? span.To : span.From));
            }
        }

        private static bool InRange(int row, int a, int b) => row >= Math.Min(a, b) && row <= Math.Max(a, b);

        /// <summary>The first fine row from one on that is sewn.</summary>
        private static int FirstSewn(int row, int step)
        {
            while ((((row % RowSections.Fine) + RowSections.Fine) % RowSections.Fine) != RowSections.Fine / 2) row += step;
            return row;
        }

        private void Row(int section, int fineRow, bool rightwards)
        {
            WorkBudget.Current.Spend(4);
            var span = area.Sections[section].At(fineRow);
            var y = area.Y(fineRow);
            var (from, to) = (span.From - Lengthened(span.RoomBefore), span.To + Lengthened(span.RoomAfter));
            if (to - from < ShortestAtEdge)
            {
                Add(new((from + to) / 2, y));
                return;
            }

            var (start, end) = rightwards ? (from, to) : (to, from);
            if (_run.Count > 0 && _run[^1].DistanceTo(new(start, y)) < ShortestAtEdge)
            {
                var aside = Math.Sqrt(Math.Max(0, (ShortestAtEdge * ShortestAtEdge) - ((y - _run[^1].Y) * (y - _run[^1].Y))));
                start = rightwards ? Math.Max(start, _run[^1].X + aside) : Math.Min(start, _run[^1].X - aside);
            }

            if (Math.Abs(end - start) >= ShortestAtEdge && (rightwards ? start < end : start > end)) Add(new(start, y));
            Needles(fineRow / RowSections.Fine, y, from, to);
            var clear = Math.Min(1.0, fill.StitchMm / 4);
            for (var i = 0; i < _needles.Count; i++)
            {
                var x = rightwards ? _needles[i] : _needles[^(i + 1)];
                if (Math.Abs(x - start) >= clear && Math.Abs(end - x) >= clear && (x > start) == rightwards) Add(new(x, y));
            }

            Add(new(end, y));
        }

        /// <summary>Where another span of the same row is near, both share the gap.</summary>
        private double Lengthened(double room) => Math.Clamp((room - NarrowestGap) / 2, 0, fill.CompensationMm);

        private void Needles(int row, double y, double from, double to)
        {
            _needles.Clear();
            if (fill.Tile is { } tile)
            {
                tile.Cross(area.Unturned(new(from, y)), area.Unturned(new(to, y)), _needles);
                for (var i = 0; i < _needles.Count; i++) _needles[i] += from;
                return;
            }

            var shift = fill.StitchMm * (row * fill.RowShift % 1);
            for (var x = (Math.Ceiling((from - shift) / fill.StitchMm) * fill.StitchMm) + shift; x < to; x += fill.StitchMm) _needles.Add(x);
        }

        /// <summary>Goes on inside a section without sewing rows.</summary>
        private void Go(int section, (int Row, double X) to)
        {
            if (_run.Count == 0)
            {
                _at = to;
                return;
            }

            var way = new List<Point> { _run[^1] };
            area.AddWay(way, section, _at, to);
            Along(way);
            _at = to;
        }

        private void Step(int row, double x)
        {
            if (_run.Count > 0) Along([_run[^1], new(x, area.Y(row))]);
            _at = (row, x);
        }

        private void Along(List<Point> way)
        {
            foreach (var p in RunLine.Along(way, WayStitch).Skip(1)) Add(p);
        }

        /// <summary>Adds a needle point unless it is too near; a long way to it is divided.</summary>
        private void Add(Point p)
        {
            if (_run.Count > 0)
            {
                var (from, length) = (_run[^1], _run[^1].DistanceTo(p));
                if (length < Limits.ShortestStitch) return;
                var longest = fill.Tile is null ? fill.StitchMm + 1.5 : Limits.LongestThrow;
                var pieces = (int)Math.Ceiling(length / longest);
                for (var s = 1; s < pieces; s++) _run.Add(from.Toward(p, s / (double)pieces));
            }

            WorkBudget.Current.Spend();
            _run.Add(p);
        }
    }
}
