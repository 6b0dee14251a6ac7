using EvenThimble.Core.Geometry;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Hoopings;

/// <summary>The small squares of the cloth that the thread of each record lies on.</summary>
internal sealed class ClothCells
{
    private const double UsualMm = 0.5;
    private const double MostCells = 6e6;
    private const double StepMm = 0.3;
    private const double HalfThread = 0.3;
    private readonly double _left;
    private readonly double _top;
    private readonly double _side;
    private readonly int[] _start;
    private readonly int[] _cells;

    private ClothCells(SewingPlan plan)
    {
        var box = plan.Bounds.IsEmpty ? new(0, 0, 0, 0) : plan.Bounds.Grown(1);
        _side = Math.Max(UsualMm, Math.Sqrt(box.Width * box.Height / MostCells));
        (_left, _top, Columns) = (box.MinX, box.MinY, (int)(box.Width / _side) + 2);
        Count = Columns * ((int)(box.Height / _side) + 2);
        var records = plan.Records;
        _start = new int[records.Count + 1];
        var (cells, laid) = (new List<int>(records.Count * 8), new int[Count]);
        for (var i = 0; i < records.Count; i++)
        {
            _start[i] = cells.Count;
            if (records.Kinds[i] == StitchKind.Stitch) Lay(Portions.GoesOn(records, i) ? records.At(i - 1) : records.At(i), records.At(i), i + 1, cells, laid);
        }

        _start[records.Count] = cells.Count;
        _cells = [.. cells];
    }

    private ClothCells(ClothCells all, bool[] kept)
    {
        (_left, _top, _side, Columns, Count) = (all._left, all._top, all._side, all.Columns, all.Count);
        (_start, _cells) = (new int[all._start.Length], new int[all._cells.Length]);
        var count = 0;
        for (var i = 0; i + 1 < _start.Length; i++)
        {
            foreach (var cell in all.Of(i))
                if (kept[cell])
                    _cells[count++] = cell;
            _start[i + 1] = count;
        }
    }

    /// <summary>Squares side by side.</summary>
    public int Columns { get; }

    /// <summary>Squares in all.</summary>
    public int Count { get; }

    /// <summary>Lays the thread of a plan.</summary>
    public static ClothCells Of(SewingPlan plan) => new(plan);

    /// <summary>How many squares all records have together.</summary>
    public int Laid => _start[^1];

    /// <summary>The same with those squares only on which something is to be chosen.</summary>
    public ClothCells Only(bool[] kept) => new(this, kept);

    /// <summary>The squares of a record, each once.</summary>
    public ReadOnlySpan<int> Of(int record) => _cells.AsSpan(_start[record], _start[record + 1] - _start[record]);

    /// <summary>By square whether two fields reach it. On all others nothing is to be chosen: what lies there sews in the one field, layer over layer.</summary>
    public bool[] SharedBy(IReadOnlyList<PlacedField> fields)
    {
        var (shared, inner) = (new bool[Count], fields.Select(f => f.Inner.Grown(_side)).ToList());
        for (var cell = 0; cell < Count; cell++)
        {
            var (p, reached) = (Middle(cell), 0);
            foreach (var field in inner) reached += field.Holds(p) ? 1 : 0;
            shared[cell] = reached > 1;
        }

        return shared;
    }

    /// <summary>The middle of a square, mm.</summary>
    public Point Middle(int cell) => new(_left + ((cell % Columns) + 0.5) * _side, _top + ((cell / Columns) + 0.5) * _side);

    /// <summary>Both sides of a strand, each square once.</summary>
    private void Lay(Point a, Point b, int record, List<int> cells, int[] laid)
    {
        var length = a.DistanceTo(b);
        var steps = Math.Max(1, (int)Math.Ceiling(length / StepMm));
        var (step, aside) = ((b - a) / steps, length < 1e-9 ? new(HalfThread, 0) : (b - a).Normal() / length * HalfThread);
        WorkBudget.Current.Spend(steps);
        var p = a;
        for (var s = 0; s <= steps; s++, p += step)
        {
            Add(Cell(p + aside));
            Add(Cell(p - aside));
        }

        void Add(int cell)
        {
            if (laid[cell] == record) return;
            laid[cell] = record;
            cells.Add(cell);
        }
    }

    /// <summary>The square of a place that thread lies on.</summary>
    public int Cell(Point p) => ((int)((p.Y - _top) / _side) * Columns) + (int)((p.X - _left) / _side);
}
