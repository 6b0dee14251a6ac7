using NetTopologySuite.Geometries;
using NetTopologySuite.Index.Strtree;
using NetTopologySuite.Operation.Buffer;
using NetTopologySuite.Operation.Union;
using Plane = NetTopologySuite.Geometries.Geometry;

namespace EvenThimble.Core.Shapes;

/// <summary>
/// Areas grown or drawn in by a distance. Many parts, or an area with many holes, are done one by one, since the time of doing them together grows with the square of their number;
/// what does not come to meet needs no more than to be put side by side.
/// </summary>
internal static class Growing
{
    private const int Many = 24;

    /// <summary>The area grown (or, below 0, drawn in) by a distance, mm, with so many pieces to a quarter of a circle.</summary>
    public static Plane Of(Plane area, double distance, int pieces)
    {
        var parts = Parts(area);
        if (parts.Count > Many) return Together([.. parts.Select(p => Of(p, distance, pieces)).SelectMany(Parts)]);
        if (parts is not [{ NumInteriorRings: > Many } pierced]) return area.Buffer(distance, new BufferParameters(pieces));
        var shell = Factory.CreatePolygon((LinearRing)pierced.ExteriorRing).Buffer(distance, new BufferParameters(pieces));
        var holes = pierced.InteriorRings.Select(r => Factory.CreatePolygon((LinearRing)r).Buffer(-distance, new BufferParameters(pieces))).SelectMany(Parts).ToList();
        if (holes.Count == 0) return shell;
        var cut = Together(holes);
        return Parts(shell) is [{ NumInteriorRings: 0 } whole] && Parts(cut) is var apart && apart.TrueForAll(h => h.NumInteriorRings == 0) && LieInside(apart, whole)
            ? Factory.CreatePolygon((LinearRing)whole.ExteriorRing, [.. apart.Select(h => (LinearRing)h.ExteriorRing)])
            : shell.Difference(cut);
    }

    /// <summary>Whether parts surely lie inside an area's outer edge without touching it.</summary>
    private static bool LieInside(List<Polygon> parts, Polygon whole)
    {
        var edge = whole.ExteriorRing.Coordinates;
        var lines = new STRtree<int>();
        for (var i = 1; i < edge.Length; i++) lines.Insert(new Envelope(edge[i - 1], edge[i]), i);
        return parts.TrueForAll(p => lines.Query(p.EnvelopeInternal).Count == 0 && Area.IsInRing(p.Coordinate, edge));
    }

    private static GeometryFactory Factory => Region.Factory;

    private static List<Polygon> Parts(Plane area) => [.. Enumerable.Range(0, area.NumGeometries).Select(area.GetGeometryN).OfType<Polygon>().Where(p => !p.IsEmpty)];

    private static Plane Together(List<Polygon> parts)
    {
        if (parts.Count == 0) return Factory.CreatePolygon();
        var places = new STRtree<Polygon>();
        foreach (var part in parts) places.Insert(part.EnvelopeInternal, part);
        return parts.TrueForAll(p => places.Query(p.EnvelopeInternal).Count == 1) ? Factory.CreateMultiPolygon([.. parts]) : UnaryUnionOp.Union(parts.Cast<Plane>());
    }
}
