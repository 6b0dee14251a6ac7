using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;

namespace EvenThimble.Core.Cutting;

/// <summary>A line as a cutter cuts it.</summary>
/// <param name="Points">Its points, mm.</param>
/// <param name="Inner">It lies in another.</param>
/// <param name="LengthMm">Its length.</param>
public sealed record CutStep(ImmutableArray<Point> Points, bool Inner, double LengthMm);

/// <summary>What a cutter does with a file: inner lines before the outer ones that hold them, else as the file has them.</summary>
/// <param name="Steps">The lines in the order they are cut.</param>
/// <param name="LengthMm">All that is cut.</param>
/// <param name="MovedMm">The ways with the blade lifted.</param>
public sealed record CutRun(ImmutableArray<CutStep> Steps, double LengthMm, double MovedMm)
{
    /// <summary>How a file is cut.</summary>
    public static CutRun Of(CutFile file)
    {
        var lines = file.Lines.Select((l, n) => (Line: l, Number: n, Depth: file.Lines.Count(o => o != l && Holds(o, l)))).ToList();
        var done = new List<CutStep>();

        // An outer line waits for all that lies in it.
        void Cut((ImmutableArray<Point> Line, int Number, int Depth) line)
        {
            if (done.Exists(d => d.Points == line.Line)) return;
            foreach (var inner in lines.Where(l => l.Depth > line.Depth && Holds(line.Line, l.Line)).OrderByDescending(l => l.Depth)) Cut(inner);
            done.Add(new(line.Line, line.Depth > 0, Length(line.Line)));
        }

        foreach (var line in lines) Cut(line);
        var (moved, at) = (0.0, Point.Zero);
        foreach (var step in done)
        {
            moved += at.DistanceTo(step.Points[0]);
            at = step.Points[0];
        }

        return new([.. done], done.Sum(d => d.LengthMm), moved);
    }

    /// <summary>How long a cutter takes.</summary>
    /// <param name="cutter">The cutter.</param>
    /// <param name="passes">How often it goes over each line.</param>
    public TimeSpan TimeOn(CutterModel cutter, int passes) => TimeSpan.FromSeconds(Math.Ceiling((LengthMm * passes / cutter.CutsPerSecond) + (MovedMm / cutter.MovesPerSecond)));

    private static double Length(ImmutableArray<Point> line) => Polylines.Length([.. line, line[0]]);

    private static bool Holds(ImmutableArray<Point> outer, ImmutableArray<Point> inner)
    {
        var (p, inside) = (inner[0], false);
        for (var i = 0; i < outer.Length; i++)
        {
            var (a, b) = (outer[i], outer[(i + 1) % outer.Length]);
            if ((a.Y <= p.Y) != (b.Y <= p.Y) && p.X < a.X + ((b.X - a.X) * (p.Y - a.Y) / (b.Y - a.Y))) inside = !inside;
        }

        return inside;
    }
}
