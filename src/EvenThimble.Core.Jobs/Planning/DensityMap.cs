using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning;

/// <summary>Length of thread on each square millimetre, which shows where stitches pile up. Only where there is thread is anything kept.</summary>
public sealed class DensityMap
{
    /// <summary>One full layer of satin or fill at 0.4 mm spacing, mm of thread per mm².</summary>
    public const double FullLayer = 2.5;

    // Squares are kept by blocks of so many across and down, so that what is far apart costs nothing between.
    private const int Block = 32;
    private readonly Dictionary<(int Column, int Row), float[]> _blocks = [];
    private ((int Column, int Row) At, float[]? Cells) _lastBlock;

    private DensityMap(int left, int top, int width, int height) => (Left, Top, Width, Height) = (left, top, width, height);

    /// <summary>The left edge of the first column, mm.</summary>
    public int Left { get; }

    /// <summary>The upper edge of the first row, mm.</summary>
    public int Top { get; }

    /// <summary>Columns of 1 mm.</summary>
    public int Width { get; }

    /// <summary>Rows of 1 mm.</summary>
    public int Height { get; }

    /// <summary>Layers of full cover in a cell: 1 is one layer at 0.4 mm.</summary>
    public double LayersAt(int column, int row) => _blocks.TryGetValue((column / Block, row / Block), out var cells) ? cells[((row % Block) * Block) + (column % Block)] / FullLayer : 0;

    /// <summary>The cells with thread on them, and their layers.</summary>
    public IEnumerable<(int Column, int Row, double Layers)> Covered =>
        from block in _blocks
        from cell in Enumerable.Range(0, Block * Block)
        where block.Value[cell] > 0
        select ((block.Key.Column * Block) + (cell % Block), (block.Key.Row * Block) + (cell / Block), block.Value[cell] / FullLayer);

    /// <summary>Total length of thread, mm.</summary>
    public double TotalMm => _blocks.Values.Sum(b => b.Sum(c => (double)c));

    /// <summary>The map of chosen parts of a plan; null chooses all.</summary>
    public static DensityMap Of(SewingPlan plan, Func<PlannedPart, bool>? chosen = null)
    {
        if (plan.Bounds.IsEmpty) return new(0, 0, 0, 0);
        var (left, top) = ((int)Math.Floor(plan.Bounds.MinX), (int)Math.Floor(plan.Bounds.MinY));
        var map = new DensityMap(left, top, (int)Math.Floor(plan.Bounds.MaxX) - left + 1, (int)Math.Floor(plan.Bounds.MaxY) - top + 1);
        foreach (var part in plan.Parts.Where(p => chosen is null || chosen(p)))
            for (var i = Math.Max(part.First, 1); i < part.End; i++)
                if (plan.Records.Kinds[i] == StitchKind.Stitch && plan.Records.Kinds[i - 1] is StitchKind.Stitch)
                    map.Lay(plan.Records.At(i - 1), plan.Records.At(i));
        return map;
    }

    /// <summary>Spreads a thread over the cells that it crosses, in steps well below a cell.</summary>
    private void Lay(Point from, Point to)
    {
        const double stepMm = 0.25;
        var length = from.DistanceTo(to);
        var steps = Math.Max(1, (int)Math.Ceiling(length / stepMm));
        WorkBudget.Current.Spend(steps / 4);
        for (var s = 0; s < steps; s++)
        {
            var p = from.Toward(to, (s + 0.5) / steps);
            var (column, row) = ((int)Math.Floor(p.X) - Left, (int)Math.Floor(p.Y) - Top);
            if (column >= 0 && row >= 0 && column < Width && row < Height) BlockOf(column, row)[((row % Block) * Block) + (column % Block)] += (float)(length / steps);
        }
    }

    private float[] BlockOf(int column, int row)
    {
        var at = (column / Block, row / Block);
        if (_lastBlock.Cells is { } last && _lastBlock.At == at) return last;
        if (!_blocks.TryGetValue(at, out var cells)) _blocks[at] = cells = new float[Block * Block];
        _lastBlock = (at, cells);
        return cells;
    }
}
