using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Recognition;

/// <summary>Stitches in one direction, by the places of their first and last needle point in the thread.</summary>
internal readonly record struct Leg(int From, int To)
{
    /// <summary>How far one lies from the other, mm.</summary>
    public double Length(Point[] points) => points[From].DistanceTo(points[To]);
}

/// <summary>Takes stitches in one direction together as legs, though their points are a little off: rows and throws, the steps between them, pieces of a line.</summary>
/// <param name="points">The needle points of the thread.</param>
internal sealed class LegReading(Point[] points)
{
    // Points lie so far beside their leg, mm; those of a row with a step at either end that is part of it farther, and by so much at least on either side.
    private const double OffLine = 0.25;
    private const double OffLineOfTwoSteps = 0.45;
    private const double StepOffLine = 0.08;

    // A leg goes on where it turns no farther, by the cosine; the direction of stitches longer than this, mm, is not told by how far their ends may be off.
    private const double GoesOn = 0.34;
    private const double GoesOnClearly = 0.7;
    private const double Clear = 0.25;

    // Needle points that are all a little off their lines lie a little better on any two: a bend leaves less than this part of that.
    private const double ClearlyStraighter = 0.7;

    // Legs are in line, or there is a corner between them, by the cosine of their turn.
    private const double InLine = 0.97;
    private const double Corner = 0.9;

    /// <summary>The legs between two needle points, in their order; each begins where the one before it ends.</summary>
    public List<Leg> Find(int from, int to)
    {
        var legs = new List<Leg>();
        var start = from;
        for (var i = from + 1; i <= to; i++)
        {
            if (i < to && GoesOnTo(start, i, i + 1)) continue;
            legs.Add(new(start, i));
            start = i;
        }

        for (var i = 1; i < legs.Count; i++)
        {
            var bend = Bend(legs[i - 1], legs[i]);
            (legs[i - 1], legs[i]) = (legs[i - 1] with { To = bend }, legs[i] with { From = bend });
        }

        return Joined(legs);
    }

    /// <summary>
    /// The legs with any two as one that are in line between two that go back: a row of a ragged edge, with a step nearly along it at either end, is farther off its line than others, to one side and then
    /// to the other.
    /// </summary>
    private List<Leg> Joined(List<Leg> legs)
    {
        var joined = new List<Leg>(legs.Count);
        for (var k = 0; k < legs.Count; k++)
        {
            var isRow = k + 1 < legs.Count && Turning(legs[k].From, legs[k].To, legs[k + 1].To) >= InLine && (k == 0 || GoesBack(legs[k - 1], legs[k])) && (k + 2 >= legs.Count || GoesBack(legs[k + 1], legs[k + 2]))
                && OffLines(points, legs[k].From, legs[k + 1].To) is var (left, right) && Math.Max(left, right) <= OffLineOfTwoSteps && Math.Min(left, right) >= StepOffLine;
            joined.Add(isRow ? new(legs[k].From, legs[++k].To) : legs[k]);
        }

        return joined;
    }

    private bool GoesBack(Leg a, Leg b) => (points[a.To] - points[a.From]).Dot(points[b.To] - points[b.From]) < 0;

    /// <summary>
    /// Where one leg really ends and the next begins. Rows that meet an edge at a small angle lie nearly in line with the step along it; then the point that leaves the least beside both legs is the
    /// bend. Where both are nearly in line, a step and a row were taken together for a while, and the sharpest turn is the bend.
    /// </summary>
    private int Bend(Leg a, Leg b)
    {
        const int reach = 8;
        var turn = Turning(a.From, a.To, b.To);
        if (turn < 0) return a.To;
        var inLine = turn > InLine;
        var (best, least) = (a.To, ClearlyStraighter * Math.Max(MostOffLine(a.From, a.To), MostOffLine(b.From, b.To)));
        for (var at = Math.Max(a.From + 1, a.To - reach); at <= Math.Min(b.To - 1, a.To + reach); at++)
        {
            var off = Math.Max(MostOffLine(a.From, at), MostOffLine(at, b.To));
            if (inLine && off <= OffLine && Turning(a.From, at, b.To) is var sharper && sharper < Math.Min(turn, Corner)) (best, turn) = (at, sharper);
            if (off < least - 1e-6 && turn > Corner) (best, least) = (at, off);
        }

        return best;
    }

    /// <summary>Cosine of how far a line turns at a point.</summary>
    private double Turning(int from, int at, int to) => (points[at] - points[from]).Unit().Dot((points[to] - points[at]).Unit());

    private double MostOffLine(int from, int to) => MostOffLine(points, from, to);

    /// <summary>How far the points between two lie beside the line from one to the other at most, mm.</summary>
    public static double MostOffLine(Point[] points, int from, int to)
    {
        var (left, right) = OffLines(points, from, to);
        return Math.Max(left, right);
    }

    /// <summary>The same on its left and on its right, mm.</summary>
    private static (double Left, double Right) OffLines(Point[] points, int from, int to)
    {
        var line = (points[to] - points[from]).Unit();
        var (left, right) = (0.0, 0.0);
        for (var k = from + 1; k < to; k++)
        {
            var off = line.Cross(points[k] - points[from]);
            (left, right) = (Math.Max(left, off), Math.Max(right, -off));
        }

        return (left, right);
    }

    /// <summary>Whether the points from one on still lie on a line when another is added.</summary>
    private bool GoesOnTo(int start, int last, int next)
    {
        var (way, edge) = (points[last] - points[start], points[next] - points[last]);
        if (way.Dot(edge) < (Math.Min(way.Length, edge.Length) < Clear ? GoesOn : GoesOnClearly) * way.Length * edge.Length) return false;
        WorkBudget.Current.Spend((last - start) / 16);
        var line = (points[next] - points[start]).Unit();
        for (var k = start + 1; k <= last; k++)
        {
            // Of long rows only some of the points need be looked at.
            if (k > start + 3 && k < last - 3 && (k - start) % 4 != 0) continue;
            if (Math.Abs(line.Cross(points[k] - points[start])) > OffLine) return false;
        }

        return true;
    }
}
