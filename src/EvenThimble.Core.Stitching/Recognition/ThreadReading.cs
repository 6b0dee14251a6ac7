using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Recognition;

/// <summary>
/// Reads one unbroken run of needle points. Ties at its ends aside, what is most particular is looked for first, and each reading has what those before it left: fills in rings, lines of manifold stitches,
/// lines that come back to their holes, rows that bend, then throws and rows that are straight; the rest are lines.
/// </summary>
internal sealed class ThreadReading
{
    private const double SamePlace = 0.05;

    // Steps in a ladder that turns farther than this, degrees, are made along each row rather than along all.
    private const double Turning = 30;

    // Rows of which more can be read as straight ones are straight.
    private const double MostStraight = 0.6;

    // Where so much is straight rows and throws no bent ones are looked for.
    private const double AllStraight = 0.95;
    private const int FewestTurning = 12;
    private const double DrawnConfidence = 0.8;

    // So many throws that end within this part of their length about the hub of spokes are spokes too.
    private const double AtHub = 0.3;
    private const double MostAtHub = 0.8;

    // A wide zigzag may be drawn where what lies beside it in the thread is, with stitches as long but for such a part; a few stitches between do not count.
    private const double AsLong = 0.35;
    private const int FewStitches = 5;

    // Of up to so many legs a ladder may be the loops of a line, or a section of a fill; the fills that it may belong to are the nearest so many.
    private const int FewRows = 5;
    private const int NearFills = 4;

    // So may be throws, up to so many: among rows, steps along the edge and ways between sections can look like some. Of those at least the one part are rows, and from the other part of them on a step leads to the next.
    private const int FewThrows = 16;
    private const double LeastRows = 0.45;
    private const double LeastSteps = 0.5;

    // So may be rows that are not quite sure and nearer to each other than this part of what is usual in the thread: ways between sections lie among them.
    private const double Even = 0.95;
    private const double Nearer = 0.8;

    private readonly List<Passage> _passages = [];
    private readonly StitchBlob _blob;
    private readonly Point[] _points;
    private readonly int[] _records;
    private readonly List<Point> _hubs = [];
    private readonly int _end;
    private readonly LadderReading _ladders;

    /// <summary>Takes the needle points from one record to before another; what lies in the same place counts once.</summary>
    public ThreadReading(StitchBlob blob, int first, int end)
    {
        (_blob, _end) = (blob, end);
        var (points, records) = (new List<Point>(end - first), new List<int>(end - first));
        for (var i = first; i < end; i++)
        {
            if (points.Count > 0 && points[^1].DistanceTo(blob.At(i)) < SamePlace) continue;
            points.Add(blob.At(i));
            records.Add(i);
        }

        (_points, _records) = ([.. points], [.. records]);
        _ladders = new(_points);
    }

    /// <summary>Its passages; each begins where the one before it ends.</summary>
    public List<Passage> Read()
    {
        var from = TieReading.End(_points, 0, 1);
        var to = _points.Length - 1 - from > 1 ? TieReading.End(_points, _points.Length - 1, -1) : _points.Length - 1;
        if (to < from) to = from;
        if (from > 0) Add(PassageKind.Tie, 0, from);
        Each(RingReading.Find(_points, from, to), r => r.From, r => r.To, from, to, Folds, Rings);
        AboutHubs();
        OfDrawings();
        OfOneColumn();
        OfFewRows();
        if (to < _points.Length - 1) Add(PassageKind.Tie, to, _points.Length - 1);

        // The last passage takes in repeated points at the end.
        if (_points.Length > 1 && _passages[^1].Last < _end - 1) _passages[^1] = _passages[^1] with { Last = _end - 1 };
        return _passages;
    }

    /// <summary>Adds what was found, and has the next reading look at what lies between.</summary>
    private static void Each<T>(IEnumerable<T> found, Func<T, int> begins, Func<T, int> ends, int from, int to, Action<int, int> rest, Action<T> add)
    {
        var at = from;
        foreach (var stretch in found)
        {
            if (begins(stretch) > at) rest(at, begins(stretch));
            add(stretch);
            at = ends(stretch);
        }

        if (to > at) rest(at, to);
    }

    private void Folds(int from, int to) => Each(LineReading.Folded(_points, from, to), f => f.From, f => f.To, from, to, Holes, f => Add(PassageKind.TripleRun, f.From, f.To, p => p with { Fold = f.Times, StitchLength = f.StitchLength, Confidence = 0.95 }));

    private void Holes(int from, int to) => Each(LineReading.InSharedHoles(_points, from, to), h => h.From, h => h.To, from, to, Rows, h => Plain(h.From, h.To, sharesHoles: true));

    /// <summary>Rows that bend, where straight ones would leave out too much, and what lies between them.</summary>
    private void Rows(int from, int to)
    {
        var straight = _ladders.Find(from, to).ToList();
        if (straight.Where(l => l.Confidence >= Passage.Sure).Sum(l => l.Legs[^1].To - l.Legs[0].From) >= AllStraight * (to - from))
        {
            Ladders(from, to, straight);
            return;
        }

        int Straight(BentRows bent) => straight.Where(l => l.Confidence >= Passage.Sure).Sum(l => Math.Max(0, Math.Min(l.Legs[^1].To, bent.Rows[^1].To) - Math.Max(l.Legs[0].From, bent.Rows[0].From)));
        var bent = new BentReading(_points).Find(from, to).Where(b => Straight(b) < MostStraight * (b.Rows[^1].To - b.Rows[0].From)).ToList();
        Each(bent, b => b.Rows[0].From, b => b.Rows[^1].To, from, to, (a, b) => Ladders(a, b, bent.Count == 0 ? straight : _ladders.Find(a, b)), Bent);
    }

    private void Bent(BentRows bent) => Add(PassageKind.Fill, bent.Rows[0].From, bent.Rows[^1].To, p => p with
    {
        Rungs = Rungs(bent.Rows),
        Stepped = true,
        Bent = true,
        SpacingMm = bent.SpacingMm,
        StitchLength = bent.StitchLength,
        Confidence = bent.Confidence,
    });

    private void Ladders(int from, int to, IEnumerable<Ladder> ladders) => Each(ladders, l => l.Legs[0].From, l => l.Legs[^1].To, from, to, (a, b) => Plain(a, b), l =>
    {
        var (first, last) = (l.Legs[0].From, l.Legs[^1].To);
        if (l.Hub is { } hub && l.Kind == PassageKind.Fill) _hubs.Add(hub);
        if (l.IsDrawn) Add(PassageKind.Run, first, last, p => p with { StitchLength = l.Legs.ConvertAll(leg => _points[leg.From].DistanceTo(_points[leg.To])).Median(), Confidence = DrawnConfidence, IsDrawn = true });
        else Add(l.Kind, first, last, p => p with
        {
            Rungs = Rungs(l.Legs),
            Stepped = l.Stepped,
            Bent = l.Stepped && l.Turn > Turning && l.Legs.Count >= FewestTurning,
            SpacingMm = l.SpacingMm,
            StitchLength = l.StitchLength,
            Confidence = l.Confidence,
        });
    });

    /// <summary>Throws that begin or end where spokes run together are spokes too, however few follow each other.</summary>
    private void AboutHubs()
    {
        if (_hubs.Count == 0) return;
        bool Touches(LadderRung rung) => (_blob.At(rung.First), _blob.At(rung.Last)) is var (a, b) && _hubs.Exists(h => Math.Min(a.DistanceTo(h), b.DistanceTo(h)) <= AtHub * a.DistanceTo(b));
        for (var n = 0; n < _passages.Count; n++)
            if (_passages[n] is { Kind: PassageKind.Satin, Rungs: var rungs } && rungs.Count(Touches) > MostAtHub * rungs.Length)
                _passages[n] = _passages[n] with { Kind = PassageKind.Fill };
    }

    /// <summary>A loose zigzag beside stitches that are drawn, and as long as they are, is drawn with them: the first row of a block of crosses looks like one.</summary>
    private void OfDrawings()
    {
        for (var n = 0; n < _passages.Count; n++)
        {
            if (_passages[n] is not { Kind: PassageKind.Satin, SpacingMm: > LadderLook.WideSpacing } zigzag) continue;
            var length = Usual(zigzag);
            if (IsDrawnAsLong(n == 0 ? -1 : _passages.FindLastIndex(n - 1, IsLong), length) || IsDrawnAsLong(_passages.FindIndex(n + 1, IsLong), length)) _passages[n] = new(PassageKind.Run, zigzag.First, zigzag.Last) { StitchLength = length, Confidence = DrawnConfidence, IsDrawn = true };
        }

        static bool IsLong(Passage p) => p.Stitches > FewStitches;
        bool IsDrawnAsLong(int passage, double length) => passage >= 0 && _passages[passage].IsDrawn && Math.Abs(_passages[passage].StitchLength - length) < AsLong * length;
    }

    /// <summary>Where a column of throws with steps between them runs straight for a while it looks like rows: what it goes on from, or into, tells.</summary>
    private void OfOneColumn()
    {
        for (var n = 0; n < _passages.Count; n++)
        {
            if (_passages[n] is not { Kind: PassageKind.Fill, Stepped: true } rows || rows with { Kind = PassageKind.Satin } is not { IsUndivided: true } throws) continue;
            var length = Usual(rows);
            if (Enumerable.Range(n - 1, 3).Any(k => k >= 0 && k < _passages.Count && _passages[k] is { Kind: PassageKind.Satin, Stepped: true } beside && Math.Abs(Usual(beside) - length) < AsLong * length)) _passages[n] = throws;
        }
    }

    /// <summary>Between the sections of a fill lie ways, and among them sections of a row or two that by themselves would be lines: those beside them tell.</summary>
    private void OfFewRows()
    {
        List<Passage> passages = [.. _passages];
        var fills = passages.FindAll(p => p is { Kind: PassageKind.Fill, Stepped: true, Bent: false, IsDense: true, Confidence: >= Passage.Sure, Rungs.Length: > FewRows });
        if (fills.Count == 0) return;
        var spacing = fills.SelectMany(f => Enumerable.Repeat(f.SpacingMm, f.Rungs.Length)).ToList().Median();
        var outermost = passages.Where(p => p is { Stepped: true, Bent: false, IsDense: true, Confidence: >= Passage.Sure } && !MayHold(p)).SelectMany(p => ShortSections.OutermostOf(_points, Legs(p))).ToList();
        var stretches = StretchesOf(passages, MayHold);
        var found = SectionsIn(stretches, fills.FindAll(f => f.SpacingMm >= Nearer * spacing), outermost);
        _passages.Clear();
        var at = 0;
        foreach (var ((begin, end, from, to), (fill, sections)) in stretches.Zip(found))
        {
            // What is of throws stays what it was, and so does what no section lies in; between that sections are what lies wholly there.
            _passages.AddRange(passages[at..begin]);
            at = end;
            var looked = passages.GetRange(begin, end - begin);
            var throws = looked.FindAll(p => IsOfThrows(p, sections));
            var within = sections.FindAll(s => !throws.Exists(p => Overlap(p, s[0], s[^1])));
            var kept = looked.FindAll(p => throws.Contains(p) || !within.Exists(s => Overlap(p, s[0], s[^1])));
            Each(kept, p => PlaceOf(p.First), p => PlaceOf(p.Last), from, to, (a, b) => Sections(fill, within.FindAll(s => s[0].From >= a && s[^1].To <= b), a, b), _passages.Add);
        }

        _passages.AddRange(passages[at..]);

        bool MayHold(Passage p) =>
            p is { Kind: PassageKind.Run, SharesHoles: false } or { Kind: PassageKind.Satin, Stepped: false, Rungs.Length: <= FewThrows }
            || (p is { Kind: PassageKind.Satin or PassageKind.Fill, InRings: false, Rungs.Length: <= FewRows } && (!p.Stepped || p.Confidence < Passage.Sure))
            || (p is { Kind: PassageKind.Fill, Bent: false, InRings: false, Confidence: < Even, Rungs.Length: <= FewThrows } && p.SpacingMm < Nearer * spacing);

        bool IsOfThrows(Passage p, List<List<Leg>> sections)
        {
            if (p.Kind != PassageKind.Satin || p.Rungs.Length <= FewRows) return false;
            var rows = sections.SelectMany(s => s).Where(row => Overlap(p, row, row)).ToList();
            var steps = sections.Sum(s => s.Zip(s.Skip(1)).Count(r => r.First.To < r.Second.From && Overlap(p, r.First, r.Second)));
            var (count, length) = (rows.Count / (double)p.Rungs.Length, rows.Sum(r => r.Length(_points)) / p.Rungs.Sum(r => _blob.At(r.First).DistanceTo(_blob.At(r.Last))));
            return Math.Max(count, length) < LeastRows || steps < LeastSteps * rows.Count;
        }
    }

    /// <summary>For each stretch the sections that lie in it as the rows of a fill do, and that fill: of the nearest in the thread the one with the most such rows.</summary>
    private List<(Passage Fill, List<List<Leg>> Sections)> SectionsIn(List<(int Begin, int End, int From, int To)> stretches, List<Passage> fills, List<Leg> outermost)
    {
        var near = stretches.ConvertAll(s => fills.OrderBy(f => Math.Abs(f.First - _records[s.From])).Take(NearFills).ToList());
        var found = stretches.ConvertAll(_ => (Fill: fills[0], Sections: new List<List<Leg>>()));
        foreach (var fill in near.SelectMany(f => f).Distinct())
        {
            List<int> its = [.. Enumerable.Range(0, stretches.Count).Where(k => near[k].Contains(fill))];
            var sections = ShortSections.Find(_points, its.ConvertAll(k => (stretches[k].From, stretches[k].To)), Legs(fill), fill.SpacingMm, outermost);
            foreach (var (k, of) in its.Zip(sections))
                if (of.Sum(s => s.Count) > found[k].Sections.Sum(s => s.Count)) found[k] = (fill, of);
        }

        return found;
    }

    /// <summary>Adds sections that are like a fill, and lines between them.</summary>
    private void Sections(Passage fill, List<List<Leg>> sections, int from, int to) =>
        Each(sections, s => s[0].From, s => s[^1].To, from, to, (a, b) => Plain(a, b), s => Add(PassageKind.Fill, s[0].From, s[^1].To, p => fill with { First = p.First, Last = p.Last, Rungs = Rungs(s) }));

    /// <summary>Whether a passage holds any stitch of what goes from the first of some rows to the last.</summary>
    private bool Overlap(Passage p, Leg first, Leg last) => last.To > PlaceOf(p.First) && first.From < PlaceOf(p.Last);

    /// <summary>Where passages of which each may hold sections follow each other: the first of them, the first after, and their first and last needle points.</summary>
    private List<(int Begin, int End, int From, int To)> StretchesOf(List<Passage> passages, Predicate<Passage> mayHold)
    {
        var stretches = new List<(int, int, int, int)>();
        for (var begin = 0; begin < passages.Count; begin++)
        {
            var end = begin;
            while (end < passages.Count && mayHold(passages[end])) end++;
            if (end == begin) continue;
            stretches.Add((begin, end, PlaceOf(passages[begin].First), PlaceOf(passages[end - 1].Last)));
            begin = end;
        }

        return stretches;
    }

    private List<Leg> Legs(Passage rows) => [.. rows.Rungs.Select(r => new Leg(PlaceOf(r.First), PlaceOf(r.Last)))];

    /// <summary>The number of the needle point that is at a record.</summary>
    private int PlaceOf(int record) => Array.BinarySearch(_records, record) is var at && at >= 0 ? at : ~at - 1;

    /// <summary>The usual length of throws or rows, mm.</summary>
    private double Usual(Passage p) => p.Rungs.Select(r => _blob.At(r.First).DistanceTo(_blob.At(r.Last))).ToList().Median();

    private void Plain(int from, int to, bool sharesHoles = false)
    {
        var line = LineReading.Described(_points, from, to, sharesHoles);
        Add(PassageKind.Run, from, to, p => p with { StitchLength = line.StitchLength, Confidence = line.Confidence, SharesHoles = sharesHoles, IsDrawn = line.IsDrawn });
    }

    private void Rings(RingStretch rings)
    {
        var lengths = Enumerable.Range(rings.From, rings.To - rings.From).Select(i => _points[i].DistanceTo(_points[i + 1])).ToList();
        Add(PassageKind.Fill, rings.From, rings.To, p => p with { InRings = true, SpacingMm = rings.SpacingMm, StitchLength = lengths.Median(), Confidence = rings.Confidence });
    }

    private ImmutableArray<LadderRung> Rungs(List<Leg> legs) => [.. legs.Select(l => new LadderRung(_records[l.From], _records[l.To]))];

    private void Add(PassageKind kind, int from, int to, Func<Passage, Passage>? more = null)
    {
        var passage = new Passage(kind, _records[from], _records[to]);
        _passages.Add(more is null ? passage : more(passage));
    }
}
