using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;
using NetTopologySuite.Densify;
using NetTopologySuite.Geometries;
using NetTopologySuite.Geometries.Implementation;
using NetTopologySuite.Operation.Buffer;
using NetTopologySuite.Operation.Distance;
using NetTopologySuite.Operation.Union;
using NetTopologySuite.Simplify;
using Plane = NetTopologySuite.Geometries.Geometry;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>Any part of the plane, mm: none, one or several areas, as they come of growing, cutting and joining.</summary>
public sealed class Region
{
    internal const double SmallestHole = 0.08;
    private const double SmallestArea = 0.05;
    private const int CostOfPoint = 8;

    // Overlays of the newer kind, which never fail on nearly touching lines.
    internal static readonly GeometryFactory Factory =
        new NetTopologySuite.NtsGeometryServices(CoordinateArraySequenceFactory.Instance, new PrecisionModel(), 0, GeometryOverlay.NG, new CoordinateEqualityComparer()).CreateGeometryFactory();

    private IndexedFacetDistance? _edges;

    internal Region(Plane shape) => Shape = shape;

    internal Plane Shape { get; }

    /// <summary>Areas taken together as they are; they must not overlap.</summary>
    public static Region Of(IEnumerable<Area> areas) => new(Factory.CreateMultiPolygon([.. areas.Select(a => a.Polygon)]));

    /// <summary>All that lies in one of many rectangles.</summary>
    public static Region OfBoxes(IEnumerable<Box> boxes) => new(UnaryUnionOp.Union(boxes.Select(b => Factory.ToGeometry(new Envelope(b.MinX, b.MaxX, b.MinY, b.MaxY)))) ?? Factory.CreatePolygon());

    /// <summary>What lies in squares that were traced (<see cref="CellOutlines"/>), its steps smoothed by no more than a distance, mm.</summary>
    internal static Region OfTraced(IEnumerable<List<Point>> rings, double off) => new(AreaOfOutlines.OfTraced(rings, off));

    /// <summary>Whether nothing is in it.</summary>
    public bool IsEmpty => Shape.IsEmpty;

    /// <summary>Its areas that are large enough to be stitched, from left to right, without holes that no eye would see.</summary>
    public IReadOnlyList<Area> Areas =>
    [
        .. Enumerable.Range(0, Shape.NumGeometries).Select(Shape.GetGeometryN).OfType<Polygon>()
            .Where(p => p.Area >= SmallestArea)
            .Select(p => p.NumInteriorRings > 0 && p.InteriorRings.Any(Area.IsSpeck) ? p.Factory.CreatePolygon((LinearRing)p.ExteriorRing, [.. p.InteriorRings.Where(r => !Area.IsSpeck(r)).Cast<LinearRing>()]) : p)
            .OrderBy(p => p.EnvelopeInternal.MinX).ThenBy(p => p.EnvelopeInternal.MinY)
            .Select(p => new Area(p)),
    ];

    internal IEnumerable<Point[]> AllRings => Enumerable.Range(0, Shape.NumGeometries).Select(Shape.GetGeometryN).OfType<Polygon>().Where(p => !p.IsEmpty).SelectMany(p => new Area(p).Rings).Where(r => r.Length > 2);

    /// <summary>Every point of it, those of lines and places where areas only touch included.</summary>
    public IEnumerable<Point> Corners => Shape.Coordinates.Select(Area.Place);

    /// <summary>The region grown (or, below 0, drawn in) by a distance (mm), round at outer corners.</summary>
    public Region Grown(double distance) => AreaOnRaster.IsCrowded(Shape, distance) ? new(AreaOnRaster.Grown(Shape, distance)) : Worked(() => Growing.Of(Shape, distance, 8));

    /// <summary>The region grown (or, below 0, drawn in) by a distance (mm), round at outer corners; nowhere more than 0.005 mm off that.</summary>
    public Region GrownFinely(double distance)
    {
        const double off = 0.005;
        var pieces = (int)Math.Ceiling(Math.PI / 4 / Math.Acos(1 - (off / Math.Max(4 * off, Math.Abs(distance)))));
        return Worked(() => Growing.Of(Shape, distance, Math.Max(8, pieces)));
    }

    /// <summary>The region drawn in by a distance (mm), its inner corners sharp: of what was grown by as much, its corners come back.</summary>
    public Region DrawnIn(double distance) => Worked(() => Shape.Buffer(-distance, new BufferParameters(8, EndCapStyle.Flat, JoinStyle.Mitre, 3)));

    /// <summary>The region with areas that touch made one.</summary>
    public Region Joined() => Worked(() => Shape.Buffer(0));

    /// <summary>The region with fewer points, none farther from its old edge than a distance, mm (D. Douglas and T. Peucker 1973).</summary>
    public Region Simplified(double distance) => new(DouglasPeuckerSimplifier.Simplify(Shape, distance));

    /// <summary>What of it lies in an area too.</summary>
    public Region Within(Area area) => Worked(() => Shape.Intersection(area.Polygon));

    /// <summary>How far the edge of an area that lies beside this region, looked at each millimetre, comes to lie from its edge, mm.</summary>
    public double FarthestOf(Area area)
    {
        _edges ??= new(Shape);
        var places = Densifier.Densify(area.Polygon, 1).Coordinates;
        WorkBudget.Current.Spend(places.Length);
        return places.Max(c => _edges.Distance(new NetTopologySuite.Geometries.Point(c)));
    }

    /// <summary>What comes of an operation that cannot be stopped while it runs: it is paid for before, by the points it works on.</summary>
    internal Region Worked(Func<Plane> operation)
    {
        var budget = WorkBudget.Current;
        budget.Spend(Shape.NumPoints * CostOfPoint);
        var made = operation();
        budget.Spend(made.NumPoints * CostOfPoint);
        return new(made);
    }
}
