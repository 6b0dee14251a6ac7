using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Respacing;

/// <summary>What is made anew, and what of it is made so far.</summary>
/// <param name="read">The stitches as they came.</param>
/// <param name="size">How much larger they are to be.</param>
/// <param name="lighter">Times as far between rows and throws.</param>
internal sealed class Remaking(ReadStitches read, Sizing size, double lighter)
{
    /// <summary>Of two ends of a throw or row that come nearer than this only one is sewn, mm.</summary>
    public const double Nearest = Limits.ShortestStitch + 0.02;

    private const double SamePlace = 0.05;

    /// <summary>How much larger the stitches are to be.</summary>
    public Sizing Size => size;

    /// <summary>Times as far between rows and throws.</summary>
    public double Lighter => lighter;

    /// <summary>What lies between the sections of its fills.</summary>
    public SectionGaps Gaps { get; } = new(read);

    /// <summary>The unbroken thread that is made now.</summary>
    public SewnThread Thread { get; private set; } = new();

    /// <summary>Its needle points so far; never empty while a passage is made.</summary>
    public List<Point> Run => Thread.Points;

    /// <summary>Whether the thread is cut after what is made now, so that it need not end where it did.</summary>
    public bool EndsAnywhere { get; set; }

    /// <summary>Whether it ended on the other side of the last row then, or farther on where a ring of satin closes.</summary>
    public bool EndsAcross { get; set; }

    /// <summary>Begins a thread where a record comes to lie.</summary>
    public void Begin(int record)
    {
        (Thread, EndsAcross) = (new(), false);
        Run.Add(Sized(record));
    }

    /// <summary>Where a record was.</summary>
    public Point Was(int record) => read.Stitches.At(record);

    /// <summary>Where a record comes to lie.</summary>
    public Point Sized(int record) => size.Apply(read.Stitches.At(record));

    /// <summary>Throws of a passage longer than this are split, mm: those that were bought longer stay.</summary>
    public double LongestThrow(Passage passage)
    {
        var longest = 0.0;
        foreach (var rung in passage.Rungs)
            for (var i = rung.First; i < rung.Last; i++)
                longest = Math.Max(longest, Was(i).DistanceTo(Was(i + 1)));
        return Math.Max(Limits.LongestThrow, Math.Min(longest, Limits.LongestStitch - 1));
    }

    /// <summary>Adds a needle point unless it is too near to the one before.</summary>
    public void Add(Point p)
    {
        if (Run[^1].DistanceTo(p) >= Limits.ShortestStitch) Run.Add(p);
    }

    /// <summary>Goes to a place; a way longer than stitches about there is divided.</summary>
    /// <param name="to">Where to.</param>
    /// <param name="stitch">The stitch about there, mm.</param>
    public void GoTo(Point to, double stitch)
    {
        var from = Run[^1];
        var pieces = (int)Math.Ceiling(from.DistanceTo(to) / Math.Max(stitch + 1.5, Limits.FillStitch));
        for (var s = 1; s < pieces; s++) Run.Add(from.Toward(to, s / (double)pieces));
        Run.Add(to);
    }

    /// <summary>By how much a row is drawn in that begins too near to the end of the one before, mm; 0 where it does not, or begins in that very place.</summary>
    /// <param name="from">Where it would begin.</param>
    /// <param name="way">Its direction there, of length 1.</param>
    public double DrawnIn(Point from, Point way)
    {
        var gap = Run[^1] - from;
        if (gap.Length is >= Nearest or < SamePlace) return 0;
        var beside = way.Cross(gap);
        return Math.Max(0, way.Dot(gap) + Math.Sqrt((Nearest * Nearest) - (beside * beside)));
    }

    /// <summary>Ends a passage at a place that the next begins from; a needle point just before it gives way.</summary>
    public void EndAt(Point p, double nearest = Limits.ShortestStitch)
    {
        if (Run[^1] == p) return;
        if (Run.Count > 1 && Run[^1].DistanceTo(p) < nearest) Run[^1] = p;
        else Run.Add(p);
    }
}
