using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Text;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Places on the cloth as the script posts them.</summary>
internal static class PlacesOf
{
    // Nearer than this two clicks are one, mm.
    private const double OneClick = 0.05;

    /// <summary>A line: "x,y x,y", mm.</summary>
    /// <exception cref="EditRefusedException">It is none.</exception>
    public static List<Point> Line(string? points) => Spots(points) is { Count: >= 2 } line ? line : throw new EditRefusedException("A line needs two points at least. Click once more on the cloth.");

    /// <summary>Any number of places: "x,y x,y", mm; none where nothing is said.</summary>
    /// <exception cref="EditRefusedException">One of them is none.</exception>
    public static List<Point> Spots(string? points)
    {
        var places = new List<Point>();
        foreach (var pair in (points ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var xy = pair.Split(',');
            if (xy.Length != 2 || !double.TryParse(xy[0], NumberStyles.Float, CultureInfo.InvariantCulture, out var x) || !double.TryParse(xy[1], NumberStyles.Float, CultureInfo.InvariantCulture, out var y) || !(Math.Abs(x) + Math.Abs(y) < ShapeRules.LargestMm))
                throw new EditRefusedException("A place of that is nowhere on the cloth.");
            if (places.Count == 0 || places[^1].DistanceTo(new(x, y)) > OneClick) places.Add(new(x, y));
        }

        return places;
    }
}
