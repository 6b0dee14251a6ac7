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
    private const double HalfThread = 0.2;
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
        var cells = new List<int>(records.Count * 8);
        for (var i = 0; i < records.Count; i++)
        {
            _start[i] = cells.Count;
            if (records.Kinds[i] == StitchKind.Stitch) Lay(Portions.GoesOn(records, i) ? records.At(i - 1) : records.At(i), records.At(i), cells);
        }

        _start[records.Count] = cells.Count;
        _cells = [.. cells];
    }

    /// <summary>Squares side by side.</summary>
    public int Columns { get; }

    /// <summary>Squares in all.</summary>
    public int Count { get; }

    /// <summary>Lays the thread of a plan.</summary>
    public static ClothCells Of(SewingPlan plan) => new(plan);

    /// <summary>The squares of a record; some may come twice.</summary>
    public ReadOnlySpan<int> Of(int record) => _cells.AsSpan(_start[record], _start[record + 1] - _start[record]);

    /// <summary>The middle of a square, mm.</summary>
    public Point Middle(int cell) => new(_left + ((cell % Columns) + 0.5) * _side, _top + ((cell / Columns) + 0.5) * _side);

    private void Lay(Point a, Point b, List<int> cells)
    {
        var length = a.DistanceTo(b);
        var steps = Math.Max(1, (int)Math.Ceiling(length / StepMm));
        var aside = length < 1e-9 ? new(HalfThread, 0) : (b - a).Normal() / length * HalfThread;
        WorkBudget.Current.Spend(steps);
        var (first, last, other) = (cells.Count, -1, -1);
        for (var s = 0; s <= steps; s++)
        {
            var p = a.Toward(b, s / (double)steps);
            Add(Cell(p + aside), ref last);
            Add(Cell(p - aside), ref other);
        }

        void Add(int cell, ref int before)
        {
            if (cell == before || (cells.Count > first && cells[^1] == cell)) return;
            before = cell;
            cells.Add(cell);
        }
    }

    private int Cell(Point p) => ((int)((p.Y - _top) / _side) * Columns) + (int)((p.X - _left) / _side);
}
