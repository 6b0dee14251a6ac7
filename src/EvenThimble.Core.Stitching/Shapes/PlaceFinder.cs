using EvenThimble.Core.Geometry;
using NetTopologySuite.Algorithm.Locate;
using NetTopologySuite.Geometries;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>Tells quickly of many places whether they lie inside rings. A look takes time with the number of outlines left and right of the place.</summary>
internal sealed class PlaceFinder
{
    private readonly IndexedPointInAreaLocator _locator;

    /// <summary>Of rings, the outer one first; where they cross each other they are mended first.</summary>
    public PlaceFinder(IEnumerable<IReadOnlyList<Point>> rings)
    {
        var polygon = AreaOfOutlines.Polygon(rings);
        _locator = new(polygon.IsValid ? polygon : polygon.Buffer(0));
    }

    /// <summary>Whether a place lies inside, not on an edge.</summary>
    public bool IsInside(Point place) => _locator.Locate(new(place.X, place.Y)) == Location.Interior;
}
