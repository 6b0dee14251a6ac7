using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;
using NetTopologySuite.Algorithm;
using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.Buffer;
using NetTopologySuite.Simplify;
using Plane = NetTopologySuite.Geometries.Geometry;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>Makes valid areas of outlines that may cross or touch themselves.</summary>
internal static class AreaOfOutlines
{
    // What is thinner than the first of these cannot be stitched and is left out, mm; only what is thinner than the second where the first would tear an area, or take a hairline as long as that from it.
    private static readonly double[] Thinnest = [0.06, 0.03, 0.012];
    private const double LongHairline = 0.35;

    // About a tip or a spur that is left as it is the outline is no longer than so many times what is too thin; about what is torn off, or lost as a long hairline, it is longer than the second, mm, where the area is
    // surely thinner.
    private const double AboutSpur = 6;
    private const double AboutHairline = 1.5;
    private const double SurelyThinner = 0.9;

    // An outline of more points than that is looked at for noise: teeth so small, mm, that make it so many times as long. With many points left it is looked at on a raster.
    private const int NoisyPoints = 400;
    private const double Teeth = 0.2;
    private const double NoisyLength = 1.3;
    private const int ManyPoints = 1500;
    private const int CostOfPoint = 4;

    /// <summary>Outlines that cross more often than this are followed on a raster: their faces are too many to be told apart one by one.</summary>
    private const int MostCrossings = 400;
    private const int MostCounted = 100_000;
    private const int MostPoints = 400_000;

    private static GeometryFactory Factory => Region.Factory;

    public static IReadOnlyList<Area> Of(IEnumerable<IReadOnlyList<Point>> outlines, Inside rule)
    {
        var rings = outlines.Select(Ring).OfType<LinearRing>().OrderByDescending(r => r.EnvelopeInternal.Area).ToList();
        if (rings.Count == 0) return [];
        var points = rings.Sum(r => r.NumPoints);
        if (points > MostPoints) throw new TooMuchWorkException($"That outline would need more than {MostPoints:N0} points to be followed. Make it smaller or simpler.");
        var network = new OutlineNetwork(rings.ConvertAll(r => Array.ConvertAll(r.Coordinates[..^1], c => GridPoint.Nearest(Area.Place(c)))), MostCounted);
        WorkBudget.Current.Spend(points * CostOfPoint);
        var area = network.Crossings > MostCrossings ? null : network.Meets ? Walked(network, rule) : Nested(rings, rule);
        if (area is null) return OnRaster(rings, rule, network.Crossings);
        return AreaOnRaster.IsCrowded(area, Teeth) ? OnRaster(rings, rule, 0) : Clean(area);
    }

    private static IReadOnlyList<Area> OnRaster(List<LinearRing> rings, Inside rule, int crossings)
    {
        var (traced, cell) = AreaOnRaster.Of(rings.ConvertAll(r => (IReadOnlyList<Point>)Array.ConvertAll(r.Coordinates, Area.Place)), rule, crossings);
        return new Region(OfTraced(traced, AreaOnRaster.Smoothing * cell)).Areas;
    }

    /// <summary>What rings enclose that were traced on a raster, with fewer points, none farther off than a distance, mm.</summary>
    internal static Plane OfTraced(IEnumerable<List<Point>> traced, double off)
    {
        var area = Nested([.. traced.Select(Ring).OfType<LinearRing>().OrderByDescending(r => r.EnvelopeInternal.Area)], Inside.OddCrossings);
        var thinned = TopologyPreservingSimplifier.Simplify(area, off);
        return thinned.IsValid ? thinned : area;
    }

    /// <summary>How often a line crosses itself, counted up to a limit.</summary>
    public static int Crossings(IReadOnlyList<Point> line, int most) => Crossings(line.Zip(line.Skip(1)).ToArray(), most);

    private static int Crossings((Point A, Point B)[] lines, int most)
    {
        var count = 0;
        foreach (var (i, j) in NearPairs(lines, 0))
        {
            var ((a, b), (c, d)) = (lines[i], lines[j]);
            if (Polylines.Cross(a, b, c, d) && ++count > most) break;
        }

        return count;
    }

    /// <summary>Pairs of lines whose extents come nearer than a distance, mm: of each the one first that begins farther to the left.</summary>
    internal static IEnumerable<(int I, int J)> NearPairs((Point A, Point B)[] lines, double distance)
    {
        // In their order from left to right.
        var (left, order) = (Array.ConvertAll(lines, l => Math.Min(l.A.X, l.B.X)), Enumerable.Range(0, lines.Length).ToArray());
        Array.Sort(left, order);
        for (var i = 0; i < lines.Length; i++)
        {
            var (a, b) = lines[order[i]];
            var (right, top, bottom) = (Math.Max(a.X, b.X) + distance, Math.Min(a.Y, b.Y) - distance, Math.Max(a.Y, b.Y) + distance);
            var j = i + 1;
            for (; j < lines.Length && left[j] <= right; j++)
                if (lines[order[j]] is var other && Math.Min(other.A.Y, other.B.Y) <= bottom && Math.Max(other.A.Y, other.B.Y) >= top)
                    yield return (order[i], order[j]);
            WorkBudget.Current.Spend(1 + ((j - i) / 64));
        }
    }

    /// <summary>An outline as a ring, or null where it has no three different points.</summary>
    public static LinearRing? Ring(IReadOnlyList<Point> outline)
    {
        var ring = new List<Coordinate>(outline.Count + 1);
        foreach (var p in outline)
        {
            var c = Coordinate(p);
            if (ring.Count == 0 || !ring[^1].Equals2D(c)) ring.Add(c);
        }

        while (ring.Count > 1 && ring[0].Equals2D(ring[^1])) ring.RemoveAt(ring.Count - 1);
        if (ring.Count < 3) return null;
        ring.Add(ring[0].Copy());
        return Factory.CreateLinearRing([.. ring]);
    }

    /// <summary>A polygon of rings that are known to be valid, shell first.</summary>
    public static Polygon Polygon(IEnumerable<IReadOnlyList<Point>> rings)
    {
        var closed = rings.Select(r => Factory.CreateLinearRing([.. r.Select(Coordinate), Coordinate(r[0])])).ToList();
        return Factory.CreatePolygon(closed[0], [.. closed.Skip(1)]);
    }

    private static Plane Grown(Plane area, double distance)
    {
        WorkBudget.Current.Spend(area.NumPoints * CostOfPoint);
        return Growing.Of(area, distance, 2);
    }

    private static IReadOnlyList<Area> Clean(Plane area) => new Region(Factory.CreateMultiPolygon([.. Polygons(Calmed(area)).SelectMany(p => Polygons(Opened(p)))])).Areas;

    private static IEnumerable<Polygon> Polygons(Plane area) => Enumerable.Range(0, area.NumGeometries).Select(area.GetGeometryN).OfType<Polygon>().Where(p => !p.IsEmpty);

    /// <summary>A connected area without threads and slits thinner than a hair, which would tear it apart where the needle could not tell; of hairlines that are drawn as such only what is thinner still is left out.</summary>
    private static Plane Opened(Polygon area)
    {
        var (opened, isTorn, thin) = ((Plane)area, true, new ThinPlaces(new(area)));
        for (var i = 0; i < Thinnest.Length && isTorn; i++)
        {
            if (!thin.Exist(Thinnest[i], AboutSpur * Thinnest[i])) return area;

            // Of two parts with so much outline either both remain, or one is a long hairline.
            if (i + 1 < Thinnest.Length && thin.PartIt(SurelyThinner * Thinnest[i], AboutHairline)) continue;
            opened = Grown(Grown(area, -Thinnest[i] / 2), Thinnest[i] / 2);
            isTorn = opened.IsEmpty || opened.NumGeometries > 1 || opened.Area < 0.97 * area.Area || HasLostHairline(area, opened);
        }

        return !isTorn && opened.Area > area.Area * 0.995 ? area : opened;
    }

    private static bool HasLostHairline(Plane area, Plane opened)
    {
        if (area.Length - opened.Length < 2 * LongHairline) return false;
        WorkBudget.Current.Spend(area.NumPoints * CostOfPoint);
        var lost = area.Difference(Grown(opened, Thinnest[0] / 4));
        return Enumerable.Range(0, lost.NumGeometries).Any(i => lost.GetGeometryN(i).Length > 2 * LongHairline);
    }

    /// <summary>An outline far longer than it is without its smallest teeth is noise; stitches that followed it would pile up. Parts that are larger than teeth stay, with what lies close about them.</summary>
    private static Plane Calmed(Plane area)
    {
        if (Polygons(area).All(p => p.NumPoints <= NoisyPoints)) return area;
        var thinned = DouglasPeuckerSimplifier.Simplify(area, Teeth / 8);
        if (Polygons(thinned).All(p => p.NumPoints <= NoisyPoints)) return thinned.IsValid ? thinned : area;

        // Lines beside so many teeth cross each other so often that they are followed on a raster first; that is exact to two squares, so the rest of what is lost there counts twice.
        if (thinned.NumPoints > ManyPoints && AreaOnRaster.Calmed(thinned) is var (rough, cell) && WithFineParts(rough, 2 * cell, Teeth * Teeth, area.Length) is { } traced) return traced;
        return WithFineParts(Grown(Grown(Grown(thinned, Teeth), -2 * Teeth), Teeth), 0, 2 * Teeth * Teeth, thinned.Length) ?? (thinned.IsValid ? thinned : area);

        // Null where it is no longer outline that is too long, or more is gone than teeth: then it is a shape of fine parts.
        Plane? WithFineParts(Plane calm, double exactTo, double most, double length)
        {
            if (!IsCalm(calm)) return null;
            WorkBudget.Current.Spend(area.NumPoints * CostOfPoint);
            var lost = Polygons(area.Difference(exactTo > 0 ? Grown(calm, exactTo) : calm)).Where(p => p.Area > most).ToArray();
            if (lost.Length == 0) return calm;
            WorkBudget.Current.Spend(area.NumPoints * CostOfPoint);
            var about = area.Intersection(Grown(Factory.CreateMultiPolygon(lost), exactTo + Teeth));
            var whole = calm.Union(Factory.CreateMultiPolygon([.. Polygons(about)]));
            return IsCalm(whole) ? whole : null;

            bool IsCalm(Plane part) => length > NoisyLength * part.Length && Math.Abs(part.Area - area.Area) < 0.05 * area.Area;
        }
    }

    /// <summary>The usual case, rings that neither cross nor touch: shells and holes by how deep they are nested.</summary>
    private static Plane Nested(List<LinearRing> rings, Inside rule)
    {
        var polygons = rings.ConvertAll(r => Factory.CreatePolygon(r));
        var winding = rings.ConvertAll(r => r.IsCCW ? 1 : -1);
        var (shells, holes) = (new List<int>(), new Dictionary<int, List<LinearRing>>());
        for (var i = 0; i < rings.Count; i++)
        {
            var around = Enumerable.Range(0, i).Where(j => Encloses(polygons[j], rings[i])).ToList();
            var (outside, inside) = rule == Inside.OddCrossings
                ? (around.Count % 2, (around.Count + 1) % 2)
                : (around.Sum(j => winding[j]), around.Sum(j => winding[j]) + winding[i]);
            if (outside == 0 && inside != 0) (shells, holes[i]) = ([.. shells, i], []);
            else if (outside != 0 && inside == 0 && around.Where(shells.Contains).Select(j => (int?)j).LastOrDefault() is { } shell) holes[shell].Add(rings[i]);
        }

        return Factory.CreateMultiPolygon([.. shells.Select(s => Factory.CreatePolygon(rings[s], [.. holes[s]]))]);

        static bool Encloses(Polygon polygon, LinearRing ring) =>
            polygon.EnvelopeInternal.Contains(ring.EnvelopeInternal) && Area.IsInRing(ring.Coordinates[0], polygon.ExteriorRing.Coordinates);
    }

    /// <summary>Rings that cross or touch: what lies inside of all together. Null where that cannot be told.</summary>
    private static Plane? Walked(OutlineNetwork network, Inside rule)
    {
        // They go round the other way, as those of overlays do.
        if (network.Rings(rule)?.ConvertAll(r => Ring([.. r.Reverse().Select(p => p.Mm)])!) is not { } rings) return null;
        var (shells, holes) = (rings.FindAll(r => !r.IsCCW).ConvertAll(r => (Ring: r, Square: Factory.CreatePolygon(r).Area)), rings.FindAll(r => r.IsCCW));
        var inside = holes.ToLookup(h => shells.Where(s => Encloses(s.Ring, h)).MinBy(s => s.Square).Ring);
        return Factory.CreateMultiPolygon([.. shells.Select(s => Factory.CreatePolygon(s.Ring, [.. inside[s.Ring]]))]);

        // They may touch, and so the first place that lies on either side tells.
        static bool Encloses(LinearRing shell, LinearRing hole) =>
            shell.EnvelopeInternal.Contains(hole.EnvelopeInternal) && hole.Coordinates.Select(c => PointLocation.LocateInRing(c, shell.Coordinates)).FirstOrDefault(l => l != Location.Boundary) == Location.Interior;
    }

    // Rounded so that places that are the same but for the last bits become the same.
    private static Coordinate Coordinate(Point p)
    {
        var place = GridPoint.Nearest(p).Mm;
        return new(place.X, place.Y);
    }
}
