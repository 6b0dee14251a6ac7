using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.Distance;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>How near lines of points come to others.</summary>
public static class LineDistance
{
    /// <summary>The least distance between two sets of lines, mm; infinite where one has none.</summary>
    public static double Between(IEnumerable<IReadOnlyList<Point>> some, IEnumerable<IReadOnlyList<Point>> others)
    {
        var (one, other) = (Of(some), Of(others));
        return one.IsEmpty || other.IsEmpty ? double.PositiveInfinity : IndexedFacetDistance.Distance(one, other);
    }

    private static MultiLineString Of(IEnumerable<IReadOnlyList<Point>> lines) =>
        Region.Factory.CreateMultiLineString([.. lines.Where(l => l.Count > 1).Select(l => Region.Factory.CreateLineString([.. l.Select(p => new Coordinate(p.X, p.Y))]))]);
}
