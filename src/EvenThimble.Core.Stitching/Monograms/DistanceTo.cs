using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Monograms;

/// <summary>How far places lie from an outline, mm; 0 within it.</summary>
internal sealed class DistanceTo(Point[] outline)
{
    private readonly Point _middle = Box.Around(outline).Middle;
    private readonly double _reach = outline.Max(Box.Around(outline).Middle.DistanceTo);

    /// <summary>The least of places that are not all within.</summary>
    public double Nearest(IEnumerable<Point> places)
    {
        var nearest = double.PositiveInfinity;
        foreach (var place in places)
            if (place.DistanceTo(_middle) - _reach < nearest)
                nearest = Math.Min(nearest, Of(place));
        return nearest;
    }

    /// <summary>Of a place.</summary>
    public double Of(Point place)
    {
        if (Winds(outline, place)) return 0;
        var nearest = double.PositiveInfinity;
        for (var i = 0; i < outline.Length; i++)
        {
            var off = place.NearestOn(outline[i], outline[(i + 1) % outline.Length]) - place;
            nearest = Math.Min(nearest, off.Dot(off));
        }

        return Math.Sqrt(nearest);
    }

    /// <summary>Whether an outline winds around a place.</summary>
    public static bool Winds(Point[] ring, Point p)
    {
        var inside = false;
        for (var i = 0; i < ring.Length; i++)
        {
            var (a, b) = (ring[i], ring[(i + 1) % ring.Length]);
            if (a.Y <= p.Y != b.Y <= p.Y && a.X + ((p.Y - a.Y) / (b.Y - a.Y) * (b.X - a.X)) > p.X) inside = !inside;
        }

        return inside;
    }
}
