using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;
using NetTopologySuite.Simplify;
using Plane = NetTopologySuite.Geometries.Geometry;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>
/// The rings about what outlines enclose that cross each other so often that their faces cannot be told apart one by one: found on a raster, whose smallest parts and gaps run together
/// until few enough are left to be sewn.
/// </summary>
internal sealed class AreaOnRaster
{
    /// <summary>What was traced is smoothed by no more than this part of a square.</summary>
    public const double Smoothing = 0.9;

    private const int MostCells = 500_000;
    private const int MostCellsToGrow = 2_000_000;
    private const int FewPoints = 600;
    private const int MostNear = 500;
    private const double LongBeside = 3;
    private const double FinestCell = 0.05;
    private const double CalmedCell = 0.08;
    private const int FewParts = 60;
    private const int ManyParts = 900;
    private const double LargeFace = 8;
    private const double FirstSmoothing = 0.15;
    private const double LeastMore = 1.6;
    private const double LeastMargin = 2;
    private const double MarginOfSize = 0.1;
    private readonly Box _box;
    private readonly double _cell;

    private AreaOnRaster(Box box, double margin, int mostCells, double finest = FinestCell)
    {
        _box = box.Grown(margin);
        _cell = Math.Max(finest, Math.Sqrt((_box.Width + 1) * (_box.Height + 1) / mostCells));
    }

    /// <summary>Whether so many lines of an area lie within a distance of others that lines drawn at that distance would cross beyond counting, as those of a fine comb do.</summary>
    public static bool IsCrowded(Plane area, double distance)
    {
        if (area.NumPoints < FewPoints) return false;
        var coarse = new DouglasPeuckerSimplifier(area) { DistanceTolerance = Math.Abs(distance) / 10, EnsureValidTopology = false }.GetResultGeometry();
        var lines = Array.FindAll(Lines(coarse), l => l.A.DistanceTo(l.B) >= LongBeside * Math.Abs(distance));
        return AreaOfOutlines.NearPairs(lines, 2 * Math.Abs(distance)).Where(p => lines[p.I].A != lines[p.J].B && lines[p.I].B != lines[p.J].A).Skip(MostNear + (lines.Length / 4)).Any();
    }

    /// <summary>An area grown by a distance, mm, or drawn in where it is below 0, to the nearest square.</summary>
    /// <exception cref="TooMuchWorkException">The squares would be as large as the distance.</exception>
    public static Plane Grown(Plane area, double distance)
    {
        var raster = new AreaOnRaster(RingsOf(area).Aggregate(Box.Empty, (b, r) => b.With(Box.Around(r))), Math.Max(0, distance), MostCellsToGrow);
        if (raster._cell > Math.Abs(distance) / 2) throw new TooMuchWorkException("That outline has too many lines close together to be followed at that size. Make it smaller or simpler.");
        var cells = raster.Painted([.. RingsOf(area)], Inside.OddCrossings);
        return AreaOfOutlines.OfTraced(Traced(Drawn(cells, Math.Abs(distance), outwards: distance > 0)), Smoothing * raster._cell);
    }

    /// <summary>An area without its small teeth and notches, and how far off it may be, mm.</summary>
    public static (Plane Calm, double CellMm) Calmed(Plane area)
    {
        var rings = RingsOf(area).ToList();
        var raster = new AreaOnRaster(Box.Around(rings.SelectMany(r => r)), LeastMargin, MostCellsToGrow, CalmedCell);
        var smooth = Smooth(raster.Painted(rings, Inside.OddCrossings), Math.Max(FirstSmoothing, 1.5 * raster._cell));
        return (AreaOfOutlines.OfTraced(Traced(smooth), Smoothing * raster._cell), raster._cell);
    }

    /// <summary>The rings, none touching another; an odd number of them lies around what is inside.</summary>
    public static (IReadOnlyList<List<Point>> Rings, double CellMm) Of(IReadOnlyList<IReadOnlyList<Point>> outlines, Inside rule, int crossings)
    {
        // What grows while it is smoothed must not reach the border.
        var box = Box.Around(outlines.SelectMany(o => o));
        var margin = Math.Max(LeastMargin, MarginOfSize * Math.Max(box.Width, box.Height));
        var raster = new AreaOnRaster(box, margin, MostCells);
        var cells = raster.Painted(outlines, rule);

        // Where faces are large they are meant, as in a drawing made with a toothed wheel; small ones are the noise of a scribble, and sewing them one by one would pile up thread.
        var face = Math.Sqrt(box.Width * box.Height / crossings);
        var mostParts = crossings == 0 ? int.MaxValue : face >= LargeFace ? ManyParts : FewParts;
        for (var radius = Math.Max(FirstSmoothing, 1.5 * raster._cell); ;)
        {
            var rings = Traced(Smooth(cells, radius));
            if (rings.Count <= mostParts || radius >= margin / 2) return (rings, raster._cell);

            // Twice as far, a quarter as many.
            radius = Math.Min(margin / 2, radius * Math.Max(LeastMore, 1.2 * Math.Sqrt(rings.Count / (double)mostParts)));
        }
    }

    /// <summary>The squares whose middles are inside.</summary>
    private CellGrid Painted(IReadOnlyList<IReadOnlyList<Point>> outlines, Inside rule)
    {
        var grid = new CellGrid(_box.Grown(2 * _cell), _cell);
        var crossings = new List<(double X, int Winding)>[grid.Rows];
        var origin = grid.Middle(0);
        foreach (var outline in outlines)
        {
            for (var i = 0; i < outline.Count; i++)
            {
                var (a, b) = (outline[i], outline[(i + 1) % outline.Count]);
                var winding = b.Y > a.Y ? 1 : -1;
                if (winding < 0) (a, b) = (b, a);
                var (first, end) = (Math.Max(0, RowFrom(a.Y)), Math.Min(grid.Rows, RowFrom(b.Y)));
                WorkBudget.Current.Spend((end - first) / 4);
                for (var row = first; row < end; row++) (crossings[row] ??= []).Add((a.X + ((origin.Y + (row * _cell) - a.Y) / (b.Y - a.Y) * (b.X - a.X)), winding));
            }
        }

        for (var row = 0; row < grid.Rows; row++)
        {
            if (crossings[row] is not { } there) continue;
            there.Sort();
            WorkBudget.Current.Spend(there.Count);
            for (int i = 0, sum = 0; i + 1 < there.Count; i++)
            {
                sum += there[i].Winding;
                if (rule == Inside.OddCrossings ? i % 2 != 0 : sum == 0) continue;
                var (from, to) = ((int)Math.Ceiling((there[i].X - origin.X) / _cell), (int)Math.Floor((there[i + 1].X - origin.X) / _cell));
                if (to >= from) grid.Cells.Slice((row * grid.Columns) + from, to - from + 1).Fill(1);
            }
        }

        return grid;

        int RowFrom(double y) => (int)Math.Ceiling((y - origin.Y) / _cell);
    }

    /// <summary>What is inside grown by a distance, or drawn in by it.</summary>
    private static CellGrid Drawn(CellGrid cells, double distance, bool outwards)
    {
        WorkBudget.Current.Spend(cells.Cells.Length / 8);
        var near = DistanceGrid.IsWithin(cells, outwards ? c => c != 0 : c => c == 0, distance);
        for (var i = 0; i < near.Length; i++) cells.Cells[i] = outwards == near[i] ? 1 : 0;
        return cells;
    }

    /// <summary>Without gaps and without parts that are narrower than twice a distance.</summary>
    private static CellGrid Smooth(CellGrid cells, double distance) => Drawn(Drawn(Drawn(cells, distance, outwards: true), 2 * distance, outwards: false), distance, outwards: true);

    private static List<List<Point>> Traced(CellGrid cells) => CellOutlines.Of(cells.Columns, cells.Rows, i => cells.Cells[i] != 0, cells.Middle(0), cells.Side);

    private static IEnumerable<Point[]> RingsOf(Plane area) => new Region(area).AllRings;

    private static (Point A, Point B)[] Lines(Plane area) => [.. RingsOf(area).SelectMany(r => r.Zip(r.Skip(1).Append(r[0])))];
}
