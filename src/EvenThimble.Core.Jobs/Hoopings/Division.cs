using System.Collections.Immutable;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Hoopings;

/// <summary>
/// Divides a plan among hoopings whose fields and order are given. A part stays whole where it can; what no field can take whole, and what would turn layers round, is cut as little more finely as
/// helps. Of all divisions that hold, the one is taken whose seam costs least: a cut row, threads that touch across the seam and stitches on the wrong side of it all have their price.
/// </summary>
internal sealed class Division
{
    private const long CutRow = 40;
    private const long CutStitch = 90;
    private const long CutTrim = 5;
    private const long Touching = 10;
    private const long GivenByHand = 1_000_000;
    private const long WrongSide = 1;
    private const long WrongSideOfDrawn = 12;
    private const double SliverMm = 4;
    private const int MostMoved = 60;
    private const int MostPasses = 4;

    // Only near the seam single stitches and rows are weighed, mm.
    private const double WeighedMm = 12;
    private readonly SewingPlan _plan;
    private readonly IReadOnlyList<PlacedField> _fields;
    private readonly ClothCells _all;

    // Those that two fields reach; on all others nothing is to be chosen.
    private readonly ClothCells _cells;
    private readonly SeamMap _seams;
    private readonly IReadOnlyDictionary<int, int> _given;
    private readonly Portions _cutting;

    // What was moved to mend one sliver is not moved back to mend another.
    private readonly HashSet<int> _settled = [];
    private List<Portion> _portions;
    private Layering _layers = null!;
    private uint[] _fits = [];
    private int[] _earliest = [];
    private int[] _latest = [];
    private int[]? _hooping;
    private long _cost;

    private Division(SewingPlan plan, IReadOnlyList<PlacedField> fields, ClothCells cells, HoopSplit wanted)
    {
        (_plan, _fields, _all, _cells) = (plan, fields, cells, cells.Only(cells.SharedBy(fields)));
        _seams = new(fields, wanted.Seams);
        var parts = plan.Parts.Select((p, n) => (p.Id, n)).ToDictionary(p => p.Id, p => p.n);
        _given = wanted.Given.Where(g => parts.ContainsKey(g.Part) && g.Hooping >= 0 && g.Hooping < fields.Count).ToDictionary(g => parts[g.Part], g => g.Hooping);
        _cutting = new(plan, KindOf);
        _portions = _cutting.Whole();
        Refine();
    }

    /// <summary>The portions, in sewing order.</summary>
    public IReadOnlyList<Portion> Portions => _portions;

    /// <summary>By portion the number of its hooping, from 0.</summary>
    public int[] Hooping
    {
        get
        {
            if (_hooping is not null) return _hooping;
            _hooping = Parted();
            for (var pass = 0; pass < MostPasses && MendSlivers(); pass++)
            {
            }

            return _hooping;
        }
    }

    /// <summary>Portions that no hooping can take, or not without turning layers round.</summary>
    public IEnumerable<int> Stray => Enumerable.Range(0, _portions.Count).Where(IsStray);

    /// <summary>What the seam costs; the less, the less it shows.</summary>
    public long Cost => Hooping.Length == 0 ? 0 : _cost;

    /// <summary>Whether everything has its place.</summary>
    public bool Holds => !Enumerable.Range(0, _portions.Count).Any(IsStray);

    /// <summary>Divides a plan.</summary>
    public static Division Of(SewingPlan plan, IReadOnlyList<PlacedField> fields, ClothCells cells, HoopSplit wanted) => new(plan, fields, cells, wanted);

    /// <summary>Whether a portion lies in the field of a hooping.</summary>
    public bool Fits(int portion, int hooping) => (_fits[portion] & (1u << hooping)) != 0;

    /// <summary>Alike is what the same fields hold, on the same side of the seam and not near it.</summary>
    private int KindOf(Geometry.Point p)
    {
        if (_seams.DistanceToSeam(p) < WeighedMm) return 0;
        var held = 1u;
        foreach (var field in _fields) held = (held << 1) | (field.Holds(p) ? 1u : 0);
        return (int)((held * (uint)(_fields.Count + 1)) + (uint)_seams.OwnerOf(p)) & int.MaxValue;
    }

    private bool IsStray(int portion) => _fits[portion] == 0 || _earliest[portion] > _latest[portion];

    private void Refine()
    {
        // First what no field takes, which needs no look at layers; then what they ask for.
        while (Cut(n => _fields.Any(f => Lies(_portions[n], f)) ? null : _cutting.Finer(_portions[n])))
        {
        }

        while (true)
        {
            _layers = Layering.Of(_plan, _cells, _portions);
            Bound();
            // What stands in another's way is cut about it first, and only then everywhere.
            var (finer, about) = (new HashSet<int>(), new HashSet<int>());
            var ground = new bool[_cells.Count];
            for (var n = 0; n < _portions.Count; n++)
            {
                if (!IsStray(n)) continue;
                if (_fits[n] == 0) finer.Add(n);
                foreach (var a in _layers.LowerOf(n))
                {
                    if (_earliest[a] <= _latest[n]) continue;
                    about.Add(a);
                    about.Add(n);
                    Mark(n);
                }
            }

            for (var n = 0; n < _portions.Count; n++)
                if (IsStray(n) && !about.Contains(n))
                    finer.Add(n);
            if (!Cut(n => finer.Contains(n) ? _cutting.Finer(_portions[n]) : about.Contains(n) ? _cutting.FinerAround(_portions[n], p => ground[_cells.Cell(p)]) ?? _cutting.Finer(_portions[n]) : null)) return;

            void Mark(int portion)
            {
                for (var i = _portions[portion].First; i < _portions[portion].End; i++)
                    foreach (var cell in _all.Of(i))
                        ground[cell] = true;
            }
        }
    }

    /// <summary>Cuts portions into what is asked for; null: it stays as it is. Tells whether any was cut.</summary>
    private bool Cut(Func<int, List<Portion>?> piecesOf)
    {
        var (cut, changed) = (new List<Portion>(_portions.Count), false);
        for (var n = 0; n < _portions.Count; n++)
        {
            if (piecesOf(n) is { } pieces)
            {
                cut.AddRange(pieces);
                changed = true;
            }
            else
            {
                cut.Add(_portions[n]);
            }
        }

        if (changed) _portions = cut;
        return changed;
    }

    /// <summary>By portion the first hooping that can take it after all that lies under it, and the last that can before all that lies over it.</summary>
    private void Bound()
    {
        var (count, hoopings) = (_portions.Count, _fields.Count);
        (_fits, _earliest, _latest) = (new uint[count], new int[count], new int[count]);
        for (var b = 0; b < count; b++)
        {
            for (var h = 0; h < hoopings; h++)
                if (Lies(_portions[b], _fields[h]))
                    _fits[b] |= 1u << h;
            var after = 0;
            foreach (var a in _layers.LowerOf(b)) after = Math.Max(after, Math.Min(_earliest[a], hoopings));
            while (after < hoopings && !Fits(b, after)) after++;
            _earliest[b] = after;
        }

        for (var a = count - 1; a >= 0; a--)
        {
            var before = hoopings - 1;
            foreach (var b in _layers.UpperOf(a)) before = Math.Min(before, Math.Max(_latest[b], -1));
            while (before >= 0 && !Fits(a, before)) before--;
            _latest[a] = before;
        }
    }

    private bool Lies(Portion portion, PlacedField field)
    {
        if (field.Holds(portion.Bounds)) return true;
        if (field.Field.Shape == Machines.FieldShape.Rectangle || !field.Inner.Grown(0.1).Meets(portion.Bounds)) return false;
        var records = _plan.Records;
        if (Hoopings.Portions.GoesOn(records, portion.First) && !field.Holds(records.At(portion.First - 1))) return false;
        for (var i = portion.First; i < portion.End; i++)
            if (records.Kinds[i] == Stitches.StitchKind.Stitch && !field.Holds(records.At(i)))
                return false;
        return true;
    }

    /// <summary>Hooping by hooping what it keeps of what is left, as the least cut has it.</summary>
    private int[] Parted()
    {
        var (count, hoopings) = (_portions.Count, _fields.Count);
        var parted = new int[count];
        Array.Fill(parted, -1);
        for (var n = 0; n < count; n++)
            if (IsStray(n))
                parted[n] = Nearest(n);
        var free = Enumerable.Range(0, count).Where(n => parted[n] < 0 && _earliest[n] < _latest[n]).ToHashSet();
        var (sides, near) = (Sides(free), Near(free));
        for (var h = 0; h < hoopings; h++)
        {
            // What has one place only is there; what can wait is weighed.
            var node = new Dictionary<int, int>();
            foreach (var n in free)
                if (parted[n] < 0 && _earliest[n] <= h && _latest[n] > h && Fits(n, h))
                    node[n] = node.Count;
            for (var n = 0; n < count; n++)
                if (parted[n] < 0 && _latest[n] == h)
                    parted[n] = h;
            if (node.Count == 0) continue;
            var cut = new LeastCut(node.Count);
            foreach (var (n, at) in node)
            {
                var (keep, leave) = (0L, 0L);
                for (var owner = 0; owner < hoopings; owner++)
                    if (owner > h) keep += sides[n][owner];
                    else leave += sides[n][owner];
                if (_given.TryGetValue(_portions[n].Part, out var wanted))
                    (keep, leave) = wanted > h ? (keep + GivenByHand, leave) : (keep, leave + GivenByHand);
                foreach (var a in _layers.LowerOf(n))
                    if (node.TryGetValue(a, out var lower)) cut.Needs(at, lower);
                    else if (parted[a] < 0 || parted[a] > h) keep += LeastCut.Forbidden;
                foreach (var b in _layers.UpperOf(n))
                    if (parted[b] >= 0 && parted[b] <= h) leave += LeastCut.Forbidden;
                foreach (var (other, cost) in near.GetValueOrDefault(n, []))
                {
                    if (node.TryGetValue(other, out var beside))
                    {
                        if (beside > at) cut.Together(at, beside, cost);
                    }
                    else if (parted[other] == h) leave += cost;
                    else if (parted[other] < 0) keep += cost;
                }

                cut.Costs(at, keep, leave);
            }

            var kept = cut.Solve();
            foreach (var (n, at) in node)
                if (kept[at])
                    parted[n] = h;
        }

        foreach (var (n, others) in near)
            foreach (var (other, cost) in others)
                if (other > n && parted[n] != parted[other])
                    _cost += cost;
        return parted;
    }

    /// <summary>Where a portion without a place is least wrong: in a field that holds it, else that whose middle is nearest.</summary>
    private int Nearest(int portion)
    {
        for (var h = 0; h < _fields.Count; h++)
            if (Fits(portion, h))
                return h;
        return _seams.OwnerOf(_portions[portion].Bounds.Middle);
    }

    /// <summary>By free portion how many squares of it lie on the side of each hooping.</summary>
    private Dictionary<int, long[]> Sides(HashSet<int> free)
    {
        var owners = new sbyte[_cells.Count];
        Array.Fill(owners, (sbyte)-1);
        var price = _seams.IsDrawn ? WrongSideOfDrawn : WrongSide;
        var sides = new Dictionary<int, long[]>(free.Count);
        foreach (var n in free)
        {
            var counts = sides[n] = new long[_fields.Count];
            for (var i = _portions[n].First; i < _portions[n].End; i++)
            {
                WorkBudget.Current.Spend();
                foreach (var cell in _cells.Of(i))
                {
                    if (owners[cell] < 0) owners[cell] = (sbyte)_seams.OwnerOf(_cells.Middle(cell));
                    counts[owners[cell]] += price;
                }
            }
        }

        return sides;
    }

    /// <summary>By free portion those that touch it or go on from it, and what parting them costs.</summary>
    private Dictionary<int, Dictionary<int, long>> Near(HashSet<int> free)
    {
        if (free.Count == 0) return [];
        var isFree = new bool[_portions.Count];
        foreach (var n in free) isFree[n] = true;
        var near = new Dictionary<int, Dictionary<int, long>>();
        var columns = _cells.Columns;
        var last = new int[_cells.Count];
        Array.Fill(last, -1);
        for (var n = 0; n < _portions.Count; n++)
        {
            if (n > 0 && _portions[n].Part == _portions[n - 1].Part)
                Add(n - 1, n, _cutting.Before(_portions[n].First) switch { Cutting.Trims => CutTrim, Cutting.Rows => CutRow, _ => CutStitch });
            for (var i = _portions[n].First; i < _portions[n].End; i++)
            {
                WorkBudget.Current.Spend();
                foreach (var cell in _cells.Of(i))
                {
                    // Twice as large squares: rows beside each other touch.
                    var wide = (cell / columns / 2 * columns) + (cell % columns / 2);
                    if (last[wide] == n) continue;
                    if (last[wide] >= 0) Add(last[wide], n, Touching);
                    last[wide] = n;
                }
            }
        }

        return near;

        void Add(int a, int b, long cost)
        {
            if (!isFree[a] && !isFree[b]) return;
            Of(a)[b] = Of(a).GetValueOrDefault(b) + cost;
            Of(b)[a] = Of(b).GetValueOrDefault(a) + cost;
        }

        Dictionary<int, long> Of(int n) => near.TryGetValue(n, out var others) ? others : near[n] = [];
    }

    /// <summary>A few stitches that were cut off from their neighbours go back to them, or take some along; tells whether any did.</summary>
    private bool MendSlivers()
    {
        var changed = false;
        for (var from = 0; from < _portions.Count;)
        {
            var end = from + 1;
            while (end < _portions.Count && Hooping[end] == Hooping[from] && IsOneThread(end)) end++;
            var (cutBefore, cutAfter) = (from > 0 && IsOneThread(from), end < _portions.Count && IsOneThread(end));
            if ((cutBefore || cutAfter) && IsSliver(from, end))
            {
                if ((cutBefore && MoveAll(from, end, Hooping[from - 1])) || (cutAfter && MoveAll(from, end, Hooping[end])))
                {
                    (changed, from) = (true, end);
                    continue;
                }

                var grown = (from, end);
                while (cutAfter && end < _portions.Count && IsOneThread(end) && IsSliver(from, end) && MoveAll(end, end + 1, Hooping[from])) end++;
                for (var before = from - 1; cutBefore && before > 0 && IsOneThread(before + 1) && IsSliver(before + 1, end) && MoveAll(before, before + 1, Hooping[from]); before--) from = before;
                changed |= grown != (from, end);
            }

            from = end;
        }

        return changed;
    }

    /// <summary>Whether a portion goes on without a trim from the one before.</summary>
    private bool IsOneThread(int portion) => _portions[portion].Part == _portions[portion - 1].Part && _cutting.Before(_portions[portion].First) > Cutting.Trims;

    private bool IsSliver(int from, int end)
    {
        var box = Geometry.Box.Empty;
        for (var n = from; n < end; n++) box = box.With(_portions[n].Bounds);
        return Math.Max(box.Width, box.Height) < SliverMm;
    }

    /// <summary>Moves portions to another hooping, with what lies under or over them and would then sew in the wrong order; nothing, where any of it cannot be there or it is too much.</summary>
    private bool MoveAll(int from, int end, int hooping)
    {
        var moved = new HashSet<int>();
        var due = new Queue<int>(Enumerable.Range(from, end - from));
        while (due.TryDequeue(out var n))
        {
            if (Hooping[n] == hooping || !moved.Add(n)) continue;
            if (!Fits(n, hooping) || _settled.Contains(n) || moved.Count > MostMoved + end - from) return false;
            foreach (var a in _layers.LowerOf(n)) if (Hooping[a] > hooping) due.Enqueue(a);
            foreach (var b in _layers.UpperOf(n)) if (Hooping[b] < hooping) due.Enqueue(b);
        }

        foreach (var n in moved) Hooping[n] = hooping;
        _settled.UnionWith(moved);
        return true;
    }
}
