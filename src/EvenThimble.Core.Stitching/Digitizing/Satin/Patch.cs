using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// A place that no throw reaches, filled before the stroke beside it is thrown: its rows lie along the nearest throw and come to their end beside it, so that they go over into the satin and nothing is sewn across them.
/// </summary>
internal sealed class Patch
{
    // A corner of a place counts as lying at the throws where one is as near as this, mm.
    private const double AtThrows = 0.3;

    // Rows lie closer than the throws of one side, for a throw goes and comes between two of them.
    private const double Closer = 0.75;

    // Rows where no stroke tells how they should lie, degrees.
    private const double Aslant = 45;

    private readonly Area _area;
    private readonly SatinStyle _style;
    private readonly double _angle = Aslant;
    private readonly IReadOnlyList<Point> _ends;

    /// <summary>A place among the strokes of its area.</summary>
    public Patch(Area area, IReadOnlyList<StrokeRungs> strokes, SatinStyle style)
    {
        (_area, _style) = (area, style);
        var (corners, middle) = (area.Corners.ToList(), area.InnerPlace);
        var rungs = strokes.SelectMany((s, i) => s.Rungs.Select(r => (Stroke: i, Rung: r))).Where(r => r.Rung.Width > Limits.ThreadWidth).ToList();
        if (rungs.Count == 0)
        {
            _ends = corners;
            return;
        }

        (Stroke, var nearest) = rungs.MinBy(r => Distance(r.Rung, middle));
        At = nearest.At;
        var along = nearest.Right - nearest.Left;
        _angle = Math.Atan2(along.Y, along.X) * 180 / Math.PI;
        var covered = corners.FindAll(c => rungs.Exists(r => r.Stroke == Stroke && Distance(r.Rung, c) < AtThrows));
        _ends = covered.Count > 0 ? covered : corners;
    }

    /// <summary>The stroke beside it.</summary>
    public int Stroke { get; }

    /// <summary>How far along that stroke it lies, mm.</summary>
    public double At { get; }

    /// <summary>Its corner that is nearest to a place.</summary>
    public Point Entry(Point from) => _area.Corners.MinBy(from.DistanceTo);

    /// <summary>The needle points of its rows.</summary>
    /// <param name="from">Where the needle comes from.</param>
    /// <param name="then">Where it goes on to.</param>
    public List<Point> Sew(Point from, Point then) => Rows(_area, _style, _angle, from, _ends.MinBy(then.DistanceTo));

    /// <summary>Rows over an area that has no strokes.</summary>
    public static List<Point> Rows(Area area, SatinStyle style, Point? start, Point? end) => Rows(area, style, Aslant, start, end);

    private static List<Point> Rows(Area area, SatinStyle style, double angle, Point? start, Point? end) =>
        FillSewing.Sew(area, new RowFill(angle) { SpacingMm = style.SpacingMm * Closer, CompensationMm = style.CompensationMm }, [], start, end);

    private static double Distance(Rung rung, Point place)
    {
        var along = rung.Right - rung.Left;
        return place.DistanceTo(rung.Left + (along * Math.Clamp((place - rung.Left).Dot(along) / along.Dot(along), 0, 1)));
    }
}
