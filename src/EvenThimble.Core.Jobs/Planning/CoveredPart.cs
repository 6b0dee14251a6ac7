using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning;

/// <summary>A piece of a part's thread that is kept or left out.</summary>
internal sealed record CoveredPiece(List<Point> Points)
{
    /// <summary>Left out.</summary>
    public bool IsGone { get; init; }

    /// <summary>The thread began anew here when it came.</summary>
    public bool BeginsAnew { get; init; }

    /// <summary>It begins with its own tie.</summary>
    public bool IsTiedAtStart { get; init; }

    /// <summary>It ends with its own tie.</summary>
    public bool EndsTied { get; init; }

    /// <summary>No thread, but a stop of the machine.</summary>
    public bool IsStop { get; init; }

    /// <summary>What the stop tells.</summary>
    public string? Message { get; init; }
}

/// <summary>Takes the stitches of one part apart by a cover.</summary>
internal sealed class CoveredPart(ReadStitches read, CellGrid covered)
{
    // Less than this is not worth a cut of the thread, mm.
    private const double ShortestGone = 3.0;
    private const double ShortestGoneAtEnd = 1.5;
    private const double Look = 0.25;
    private readonly List<CoveredPiece> _pieces = [];
    private bool _changed;

    /// <summary>Whether a straight way lies under the cover.</summary>
    public static bool IsCovered(CellGrid covered, Point from, Point to)
    {
        var steps = Math.Max(1, (int)Math.Ceiling(from.DistanceTo(to) / Look));
        WorkBudget.Current.Spend(1 + (steps / 16));
        for (var i = 0; i <= steps; i++)
            if (covered.At(from.Toward(to, i / (double)steps)) == 0)
                return false;
        return true;
    }

    /// <summary>The pieces in the order they are sewn, and whether anything is left out.</summary>
    public (List<CoveredPiece> Pieces, bool Changed) Take()
    {
        var (blob, passages) = (read.Stitches, read.Passages);
        var n = 0;
        for (var i = 0; i < blob.Count; i++)
        {
            if (blob.Kinds[i] == StitchKind.Stop) _pieces.Add(new([]) { IsStop = true, Message = blob.Messages.GetValueOrDefault(i) });
            if (n >= passages.Length || passages[n].First != i) continue;
            var first = n;
            while (n + 1 < passages.Length && passages[n + 1].First == passages[n].Last) n++;
            Thread(first, n);
            i = passages[n++].Last;
        }

        return (_pieces, _changed);
    }

    /// <summary>One unbroken thread, by its first and last passage.</summary>
    private void Thread(int first, int last)
    {
        var passages = read.Passages;
        var (from, to) = (passages[first].First, passages[last].Last);
        if (!Any(from, to))
        {
            var whole = Points(from, to);
            if (whole.Count > 0) _pieces.Add(new(whole) { BeginsAnew = true, IsTiedAtStart = true, EndsTied = true });
            return;
        }

        var begins = _pieces.Count;
        for (var n = first; n <= last; n++)
        {
            var p = passages[n];
            if (p.Kind == PassageKind.Tie) continue;
            if (p.Rungs.Length > 1) Rungs(p);
            else Line(Points(p.First, p.Last));
        }

        // Ties are made anew at the new ends. What was cut when it came stays cut.
        for (var i = begins; i < _pieces.Count; i++)
        {
            if (_pieces[i].IsGone) continue;
            _pieces[i] = _pieces[i] with { BeginsAnew = true };
            break;
        }
    }

    private bool Any(int from, int to)
    {
        for (var i = from; i < to; i++)
            if (covered.At(read.Stitches.At(i)) > 0)
                return true;
        return false;
    }

    private List<Point> Points(int from, int to)
    {
        var points = new List<Point>(to - from + 1);
        for (var i = from; i <= to; i++) points.Add(read.Stitches.At(i));
        return points;
    }

    /// <summary>A line, cut where it goes under the cover.</summary>
    private void Line(List<Point> line)
    {
        var (looks, needles) = Looks(line);
        var hidden = looks.ConvertAll(p => covered.At(p) > 0);
        var all = hidden.TrueForAll(h => h);
        var (from, before) = (0, new List<(int From, int To, bool IsGone)>());
        for (var i = 1; i < looks.Count; i++)
        {
            bool IsHidden(int step) => hidden[step - 1] && hidden[step];
            if (i + 1 < looks.Count && IsHidden(i + 1) == IsHidden(i)) continue;

            // What is too short to save anything is sewn with what lies before and after it.
            var least = from == 0 || i == looks.Count - 1 ? ShortestGoneAtEnd : ShortestGone;
            var gone = all || (IsHidden(i) && Polylines.Length(looks.GetRange(from, i - from + 1)) >= least);
            if (before.Count > 0 && before[^1].IsGone == gone) before[^1] = before[^1] with { To = i };
            else before.Add((from, i, gone));
            from = i;
        }

        foreach (var (first, last, gone) in before)
        {
            bool IsApart(int at) => looks[at].DistanceTo(looks[first]) >= Limits.ShortestStitch && looks[at].DistanceTo(looks[last]) >= Limits.ShortestStitch;
            Put([looks[first], .. Enumerable.Range(first, last - first).Skip(1).Where(k => needles[k] && (before.Count == 1 || IsApart(k))).Select(k => looks[k]), looks[last]], gone);
        }
    }

    /// <summary>Places along a line, at most a look apart, and which of them are needle points.</summary>
    private static (List<Point> Places, List<bool> Needles) Looks(List<Point> line)
    {
        var (places, needles) = (new List<Point> { line[0] }, new List<bool> { true });
        for (var i = 1; i < line.Count; i++)
        {
            var steps = Math.Max(1, (int)Math.Ceiling(line[i - 1].DistanceTo(line[i]) / Look));
            WorkBudget.Current.Spend(1 + (steps / 16));
            for (var s = 1; s <= steps; s++)
            {
                places.Add(s == steps ? line[i] : line[i - 1].Toward(line[i], s / (double)steps));
                needles.Add(s == steps);
            }
        }

        return (places, needles);
    }

    /// <summary>Puts a piece, joined to the one before where that goes on to it and is treated alike.</summary>
    private void Put(List<Point> points, bool gone)
    {
        if (points.Count < 2) return;
        _changed |= gone;
        if (_pieces.Count > 0 && _pieces[^1] is { IsStop: false, EndsTied: false } last && last.IsGone == gone && last.Points.Count > 0 && last.Points[^1].DistanceTo(points[0]) < 1e-6)
        {
            last.Points.AddRange(points.Skip(1));
            return;
        }

        _pieces.Add(new(points) { IsGone = gone });
    }

    /// <summary>Throws or rows. What is left of each belongs to the strand that its neighbour before it belongs to, where they lie side by side; strands are sewn one after another.</summary>
    private void Rungs(Passage passage)
    {
        var strands = new List<Strand>();
        var open = new List<Strand>();
        var rows = passage.Rungs;
        var alongRow = Along(passage);
        for (var k = 0; k < rows.Length; k++)
        {
            var points = Points(rows[k].First, rows[k].Last);

            // The step from the row before belongs to this one.
            var step = k > 0 && rows[k - 1].Last < rows[k].First ? Points(rows[k - 1].Last, rows[k].First) : [];
            var length = Polylines.Length(points);
            var left = Left(points, length);
            var next = new List<Strand>();
            foreach (var (from, to, stretch) in left)
            {
                // Rows that bend or fan out have no one way along all of them: what counts is how far along each it lies.
                var (a, b) = !passage.Bent ? Span(stretch, alongRow) : k % 2 == 0 ? (from, to) : (length - to, length - from);
                var beside = open.Where(s => !next.Contains(s) && Math.Min(s.To, b) - Math.Max(s.From, a) > 0).MaxBy(s => Math.Min(s.To, b) - Math.Max(s.From, a));
                if (beside is null) strands.Add(beside = new());
                beside.Add(stretch, from == 0 ? step : []);
                (beside.From, beside.To) = (a, b);
                next.Add(beside);
            }

            open = next;
        }

        foreach (var strand in strands) Put(strand.Points, gone: false);
    }

    private Point Along(Passage passage)
    {
        var along = Point.Zero;
        for (var k = 0; k < passage.Rungs.Length; k++)
            along += (read.Stitches.At(passage.Rungs[k].Last) - read.Stitches.At(passage.Rungs[k].First)) * (k % 2 == 0 ? 1 : -1);
        return along.Unit();
    }

    private static (double From, double To) Span(List<Point> points, Point along)
    {
        var (a, b) = (along.Dot(points[0]), along.Dot(points[^1]));
        return a < b ? (a, b) : (b, a);
    }

    /// <summary>What is left of a row of a length: from where to where along it, mm, with its needle points.</summary>
    private List<(double From, double To, List<Point> Points)> Left(List<Point> row, double length)
    {
        var left = new List<(double From, double To, List<Point> Points)>();
        var steps = Math.Max(1, (int)Math.Ceiling(length / Look));
        WorkBudget.Current.Spend(1 + (steps / 4));
        var hidden = new bool[steps + 1];
        for (var i = 0; i <= steps; i++) hidden[i] = covered.At(At(row, length * i / steps)) > 0;
        if (Array.TrueForAll(hidden, h => h))
        {
            _changed = true;
            _pieces.Add(new(row) { IsGone = true });
            return left;
        }

        if (!hidden.Contains(true))
        {
            left.Add((0, length, row));
            return left;
        }

        for (var i = 0; i <= steps;)
        {
            var end = i;
            while (end < steps && hidden[end + 1] == hidden[i]) end++;

            // A stretch reaches half a step beyond its last look; hidden ones that are too short to save anything are sewn.
            var (from, to) = (Math.Max(0, (i - 0.5) * length / steps), Math.Min(length, (end + 0.5) * length / steps));
            if (!hidden[i] || to - from < (i == 0 || end == steps ? ShortestGoneAtEnd : ShortestGone))
            {
                if (left.Count > 0 && left[^1].To == from) left[^1] = (left[^1].From, to, Part(row, left[^1].From, to));
                else left.Add((from, to, Part(row, from, to)));
            }
            else
            {
                _changed = true;
                _pieces.Add(new(Part(row, from, to)) { IsGone = true });
            }

            i = end + 1;
        }

        return left;
    }

    private static Point At(List<Point> line, double along)
    {
        for (var i = 1; i < line.Count; i++)
        {
            var step = line[i - 1].DistanceTo(line[i]);
            if (along <= step) return line[i - 1].Toward(line[i], step < 1e-9 ? 0 : along / step);
            along -= step;
        }

        return line[^1];
    }

    /// <summary>A part of a row with its needle points, those too near to the new ends left out.</summary>
    private static List<Point> Part(List<Point> row, double from, double to)
    {
        var points = new List<Point> { At(row, from) };
        var walked = 0.0;
        for (var i = 1; i < row.Count; i++)
        {
            walked += row[i - 1].DistanceTo(row[i]);
            if (walked > from + Limits.ShortestStitch && walked < to - Limits.ShortestStitch) points.Add(row[i]);
        }

        points.Add(At(row, to));
        return points;
    }

    /// <summary>What is left of neighbouring rows, sewn to and fro.</summary>
    private sealed class Strand
    {
        public List<Point> Points { get; } = [];

        public double From { get; set; }

        public double To { get; set; }

        public void Add(List<Point> row, List<Point> step)
        {
            if (Points.Count == 0)
            {
                Points.AddRange(row);
                return;
            }

            // Whichever end is nearer is sewn first.
            var ahead = Points[^1].DistanceTo(row[0]) <= Points[^1].DistanceTo(row[^1]);
            if (ahead && step.Count > 0 && step[0].DistanceTo(Points[^1]) < 0.01)
                foreach (var p in step.Skip(1))
                    AddApart(p);
            foreach (var p in ahead ? row : row.AsEnumerable().Reverse()) AddApart(p);
        }

        private void AddApart(Point p)
        {
            var (from, length) = (Points[^1], Points[^1].DistanceTo(p));
            if (length < Limits.ShortestStitch) return;
            var pieces = length > Limits.LongestThrow ? (int)Math.Ceiling(length / Limits.FillStitch) : 1;
            for (var s = 1; s <= pieces; s++) Points.Add(from.Toward(p, s / (double)pieces));
        }
    }
}
