using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Goes over the stitches of an area, satin alone or satin and fill, as a hand would when they are finished.</summary>
/// <param name="area">What they cover.</param>
/// <param name="layout">The strokes of that.</param>
/// <param name="style">How they are thrown.</param>
internal sealed class Finishing(Area area, StrokeLayout layout, SatinStyle style)
{
    // Cloth is cut where too many needle points lie close together; each of those counts as so much of a way that is seen, mm.
    private const double PointTooMany = 0.15;

    // Side of the squares on which is found what is inside, mm.
    private const double Square = 0.07;

    // Beyond compensation a needle point or a stitch may lie this far outside, mm.
    private const double MostOutside = 0.5;

    private readonly BitGrid _inside = SquaresOf(area);

    /// <summary>What is wrong with a run, as length of a way that shows, mm, and the longest piece that lies alone. Between loose throws every thread shows: there it is all thread.</summary>
    public (double Faults, LonePiece? Alone) Faults(List<Point> run)
    {
        if (run.Count < 2) return (0, null);
        if (!style.Closes) return (Polylines.Length(run), null);
        var alone = ShowingThread.LongestAlone(run, LoneThread.Unseen);
        return (Math.Max(0, alone.Length - LoneThread.Unseen) + (PointTooMany * Math.Max(0, CrowdedPoints.Most(Ties.Tied(run)) - CrowdedPoints.Harmless)), alone);
    }

    /// <summary>What crosses open ground goes by a way inside instead.</summary>
    /// <param name="run">The stitches.</param>
    public void StayInside(List<Point> run)
    {
        if (!run.Zip(run.Skip(1)).Any(s => Leaves(s.First, s.Second))) return;
        var most = style.CompensationMm + MostOutside;
        var inside = new OpenGround(area, layout.Outline, () => layout.Ways, most, most).Avoided(run, Leaves);
        run.Clear();
        run.AddRange(inside);
    }

    /// <summary>Closes small gaps, and takes out needle points that are crowded for it and where the thread goes straight on.</summary>
    /// <param name="run">The stitches.</param>
    /// <returns>Whether anything was changed.</returns>
    private bool CloseGaps(List<Point> run)
    {
        var points = run.Count;
        SmallGaps.Close(run, area, layout, style);
        var closed = run.Count;
        CrowdedPoints.Ease(run);
        return closed != points || closed != run.Count;
    }

    /// <summary>A run whose small gaps are closed, and nothing else.</summary>
    /// <param name="run">The stitches.</param>
    public List<Point> Closed(List<Point> run)
    {
        CloseGaps(run);
        return run;
    }

    /// <summary>Closes what is open, then the rest.</summary>
    /// <param name="run">The stitches.</param>
    /// <param name="alone">The longest piece that lies alone, if that is known.</param>
    /// <returns>How much more thread than a cloth takes lies on a mm² still, mm.</returns>
    public double Finish(List<Point> run, LonePiece? alone) => GoOver(run, CloseGaps(run) | OpenSlots.Close(run, area, layout, style) ? null : alone);

    /// <summary>Hides what lies alone, thins out what is heaped, spreads what is crowded.</summary>
    /// <param name="run">The stitches.</param>
    /// <param name="alone">The longest piece that lies alone, if that is known.</param>
    /// <returns>How much more thread than a cloth takes lies on a mm² still, mm.</returns>
    public double GoOver(List<Point> run, LonePiece? alone = null)
    {
        if (alone is not { Length: <= LoneThread.Unseen }) LoneThread.Hide(run, _inside, layout, style.LongestThrow);
        var isHeaped = HeapedThread.Thin(run, _inside, layout, style.LongestThrow);
        CrowdedPoints.Spread(run, _inside, layout, style.LongestThrow);
        return isHeaped ? TooMuch(run) : 0;
    }

    /// <summary>What is heaped even then is thinned out though a little more is bare for it.</summary>
    /// <param name="run">The stitches.</param>
    /// <param name="lenience">How many times as much as usual.</param>
    /// <returns>How much more thread than a cloth takes lies on a mm² still, mm.</returns>
    public double ThinMore(List<Point> run, double lenience) => HeapedThread.Thin(run, _inside, layout, style.LongestThrow, lenience) ? TooMuch(run) : 0;

    private static double TooMuch(List<Point> run) => Math.Max(0, HeapMap.MostOf(Ties.Tied(run)) - HeapedThread.Harmful);

    /// <summary>Whether a stitch may leave the area at all: what does is looked at more closely.</summary>
    private bool Leaves(Point from, Point to) => !_inside.Has(from.Toward(to, 0.2)) || !_inside.Has(from.Toward(to, 0.4)) || !_inside.Has(from.Toward(to, 0.6)) || !_inside.Has(from.Toward(to, 0.8));

    private static BitGrid SquaresOf(Area area)
    {
        var inside = new BitGrid(area.Bounds, Square);
        inside.LayInside(area.Rings);
        return inside;
    }
}
