using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;
using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.Buffer;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>The area that a satin of one width along a line covers.</summary>
public static class LineBand
{
    private const int MostCrossings = 400;

    private static GeometryFactory Factory => Region.Factory;

    /// <summary>The band about a line, its ends square and its corners mitred; a closed line makes a ring without a gap.</summary>
    public static IReadOnlyList<Area> Of(IReadOnlyList<Point> line, bool closed, double width)
    {
        var points = line.Where((p, i) => i == 0 || p != line[i - 1]).Select(p => new Coordinate(p.X, p.Y)).ToList();
        if (closed && !points[0].Equals2D(points[^1])) points.Add(points[0].Copy());
        if (points.Count < 2 || (closed && points.Count < 4)) return [];
        if (AreaOfOutlines.Crossings([.. points.Select(Area.Place)], MostCrossings) > MostCrossings)
            throw new TooMuchWorkException($"That line crosses itself more than {MostCrossings} times, which no satin line can follow. Choose a run for it.");
        LineString path = closed ? Factory.CreateLinearRing([.. points]) : Factory.CreateLineString([.. points]);
        return new Region(path.Buffer(width / 2, new BufferParameters(12, EndCapStyle.Flat, JoinStyle.Mitre, 2.4))).Areas;
    }
}
