using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

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

    // So many rungs are looked at in the time of one step of work.
    private const int StepsOfOne = 16;

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
        _ends = corners;
        var (nearest, nearestThrow) = (double.PositiveInfinity, double.PositiveInfinity);
        for (var i = 0; i < strokes.Count; i++)
        {
            WorkBudget.Current.Spend(strokes[i].Rungs.Count / StepsOfOne);
            foreach (var rung in strokes[i].Rungs)
            {
                // A rung of one thread's width tells where the place lies, but hardly how its rows should.
                var (off, along) = (middle.DistanceToLine(rung.Left, rung.Right), rung.Right - rung.Left);
                if (off < nearest) (nearest, Stroke, At) = (off, i, rung.At);
                if (off < nearestThrow && rung.Width > Limits.ThreadWidth) (nearestThrow, _angle) = (off, Math.Atan2(along.Y, along.X) * 180 / Math.PI);
            }
        }

        var beside = strokes[Stroke].Rungs;
        WorkBudget.Current.Spend(corners.Count * beside.Count / StepsOfOne);
        if (corners.FindAll(c => beside.Exists(r => c.DistanceToLine(r.Left, r.Right) < AtThrows)) is { Count: > 0 } covered) _ends = covered;
    }

    /// <summary>The stroke beside it.</summary>
    public int Stroke { get; }

    /// <summary>How far along that stroke it lies, mm.</summary>
    public double At { get; }

    /// <summary>Its corner that is nearest to a place.</summary>
    public Point Entry(Point from) => _area.Corners.MinBy(from.DistanceTo);

    /// <summary>How much of a straight way lies across its rows, mm; what goes along them is not seen.</summary>
    public double Crossed(Point from, Point to)
    {
        var (sin, cos) = Math.SinCos(_angle * Math.PI / 180);
        return _area.LengthOf(from, to) * Math.Abs(new Point(cos, sin).Cross((to - from).Unit()));
    }

    /// <summary>The needle points of its rows.</summary>
    /// <param name="from">Where the needle comes from.</param>
    /// <param name="then">Where it goes on to.</param>
    public List<Point> Sew(Point from, Point then) => Rows(_area, _style, _style.SpacingMm * Closer, _angle, from, _ends.MinBy(then.DistanceTo));

    /// <summary>Rows over an area that has no strokes.</summary>
    public static List<Point> Rows(Area area, SatinStyle style, Point? start, Point? end) => Rows(area, style, style.SpacingMm, Aslant, start, end);

    private static List<Point> Rows(Area area, SatinStyle style, double spacing, double angle, Point? start, Point? end) =>
        FillSewing.Sew(area, new RowFill(angle) { SpacingMm = spacing, CompensationMm = style.CompensationMm }, [], start, end);
}
