using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Fill;

/// <summary>The tiles for patterned fill. Lines run across the rows (which lie level in the drawing), since rows show where needle points line up from row to row.</summary>
public static class Tiles
{
    /// <summary>All tiles, the plainest first.</summary>
    public static IReadOnlyList<Tile> All { get; } =
    [
        new("brick", "brick", 6, 6, [Line(0, 0, 0, 3), Line(3, 3, 3, 6)]),
        new("wave", "wave", 4, 12, [Curve(0, 12, t => 1 + (1.2 * Math.Sin(2 * Math.PI * t)))]),
        new("diamond", "diamond", 6, 9, [[new(0, 4.5), new(3, 0)], [new(3, 0), new(6, 4.5)], [new(0, 4.5), new(3, 9)], [new(3, 9), new(6, 4.5)]]),
        new("herringbone", "herringbone", 4, 8, [[new(0, 0), new(4, 4)], [new(4, 4), new(0, 8)]]),
        new("scale", "scale", 6, 6, [Arc(0, 0, 0, 16), Arc(-3, 3, 8, 16), Arc(3, 3, 0, 8)]),
        new("basket", "basket", 8, 8, [Line(0, 0, 0, 4), Line(2, 0, 2, 4), Line(4, 0, 4, 4), Line(4, 4, 4, 8), Line(6, 4, 6, 8), Line(0, 4, 0, 8)]),
        new("ladder", "ladder", 5, 5, [Line(0, 0, 0, 5), [new(0, 2), new(5, 3)]]),
        new("shingle", "dome shingles", 6, 8, [[new(0, 0), new(0, 3), new(3, 4.5)], [new(6, 3), new(3, 4.5)], [new(3, 4.5), new(3, 7), new(0, 8)], [new(3, 7), new(6, 8)]]),
        new("rays", "falling rays", 6, 12, [[new(0, 0), new(2, 6), new(0, 12)], [new(3, 0), new(5, 6), new(3, 12)]]),
        new("facets", "star facets", 8, 8, [[new(4, 0), new(5, 3), new(8, 4)], [new(8, 4), new(5, 5), new(4, 8)], [new(4, 8), new(3, 5), new(0, 4)], [new(0, 4), new(3, 3), new(4, 0)]]),
    ];

    /// <summary>The tile of a short name, or null.</summary>
    public static Tile? Find(string? id) => All.FirstOrDefault(t => t.Id == id);

    private static Point[] Line(double x0, double y0, double x1, double y1) => [new(x0, y0), new(x1, y1)];

    private static Point[] Curve(double from, double to, Func<double, double> x) =>
        [.. Enumerable.Range(0, 13).Select(i => new Point(x(i / 12.0), from + ((to - from) * i / 12)))];

    /// <summary>Some sixteenths of the lower edge of a scale of 6 x 3 mm; a repeat holds only what lies within it.</summary>
    private static Point[] Arc(double left, double top, int from, int to) =>
        [.. Enumerable.Range(from, to - from + 1).Select(i => Math.PI * i / 16).Select(a => new Point(left + 3 - (3 * Math.Cos(a)), top + (3 * Math.Sin(a))))];
}
