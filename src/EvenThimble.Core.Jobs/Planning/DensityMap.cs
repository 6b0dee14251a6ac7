using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Planning;

/// <summary>Length of thread on each square millimetre, which shows where stitches pile up. Only where there is thread is anything kept.</summary>
public sealed class DensityMap
{
    /// <summary>One full layer of satin or fill at 0.4 mm spacing, mm of thread per mm².</summary>
    public const double FullLayer = 2.5;

    // Of a cover there is at least so much thread, in full layers; satin with its underlay and an overlap is at most this.
    private const double LeastCover = 0.7;
    private const float MostOfOne = 3;

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

    /// <summary>Places that touch by their sides and have more than so many layers, the largest first: how many squares (mm²), and the column and row of the thickest.</summary>
    public IReadOnlyList<(int SquareMm, int Column, int Row)> Over(double layers)
    {
        var left = Covered.Where(c => c.Layers > layers).ToDictionary(c => (c.Column, c.Row), c => c.Layers);
        var places = new List<(int, int, int)>();
        while (left.Count > 0)
        {
            var (place, thickest) = (new Queue<(int Column, int Row)>([left.Keys.Min()]), (Layers: 0.0, At: default((int Column, int Row))));
            var size = 0;
            while (place.TryDequeue(out var at))
            {
                if (!left.Remove(at, out var here)) continue;
                size++;
                if (here > thickest.Layers) thickest = (here, at);
                foreach (var (dx, dy) in new[] { (1, 0), (-1, 0), (0, 1), (0, -1) }) place.Enqueue((at.Column + dx, at.Row + dy));
            }

            places.Add((size, thickest.At.Column, thickest.At.Row));
        }

        return [.. places.OrderByDescending(p => p.Item1)];
    }

    /// <summary>Total length of thread, mm.</summary>
    public double TotalMm => _blocks.Values.Sum(b => b.Sum(c => (double)c));

    /// <summary>The map of chosen parts of a plan; null chooses all.</summary>
    public static DensityMap Of(SewingPlan plan, Func<PlannedPart, bool>? chosen = null)
    {
        var map = Empty(plan);
        foreach (var part in plan.Parts.Where(p => chosen is null || chosen(p))) map.Lay(plan, part);
        return map;
    }

    /// <summary>
    /// Layers as a practitioner counts them: satin or fill with all that lies under it is one, whatever part it is of; a part that lays far more thread than that in one place counts for more.
    /// </summary>
    public static DensityMap Covers(SewingPlan plan)
    {
        var covers = Empty(plan);
        foreach (var part in plan.Parts)
        {
            var own = Empty(plan);
            own.Lay(plan, part);
            foreach (var (block, cells) in own._blocks)
            {
                var into = covers.BlockOf(block.Column * Block, block.Row * Block);
                for (var i = 0; i < cells.Length; i++)
                    if (cells[i] >= LeastCover * FullLayer)
                        into[i] += Math.Max((float)FullLayer, cells[i] / MostOfOne);
            }
        }

        return covers;
    }

    private static DensityMap Empty(SewingPlan plan)
    {
        if (plan.Bounds.IsEmpty) return new(0, 0, 0, 0);
        var (left, top) = ((int)Math.Floor(plan.Bounds.MinX), (int)Math.Floor(plan.Bounds.MinY));
        return new(left, top, (int)Math.Floor(plan.Bounds.MaxX) - left + 1, (int)Math.Floor(plan.Bounds.MaxY) - top + 1);
    }

    private void Lay(SewingPlan plan, PlannedPart part)
    {
        for (var i = Math.Max(part.First, 1); i < part.End; i++)
            if (plan.Records.Kinds[i] == StitchKind.Stitch && plan.Records.Kinds[i - 1] is StitchKind.Stitch)
                Lay(plan.Records.At(i - 1), plan.Records.At(i));
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
