using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Where long throws fan out about an inner corner, or end along an edge that they graze, they lie upon each other for much of their length: there some end farther out, as long as those beside
/// them close all that they leave.
/// </summary>
internal static class FannedThrows
{
    // Throws up to this length are left as they are, and none comes to be shorter than half of it, mm.
    private const double ShortThrow = 2;

    // A throw lies upon another that is nearer to its end than this part of the spacing. It is looked at in such steps, mm, and among so many to either side.
    private const double Upon = 0.6;
    private const double Step = 0.25;
    private const int Beside = 12;

    // A place is closed where the threads on either side of it are no farther apart than this, or one lies on it, mm.
    private const double Closed = 0.95 * Limits.ThreadWidth;
    private const double OnIt = 0.06;

    // Along an edge that throws graze each ends a little before the next: so far beyond its end it counts as if it went on, mm. What that leaves bare is less than a thread's width.
    // Not so where that end was moved itself: side by side they would leave a dent in the edge.
    private const double BeyondEnd = 0.5;
    private const double BeyondMoved = 0.1;

    // It is worth a needle point elsewhere that so much thread is saved, mm.
    private const double Worth = 0.5;

    /// <summary>Moves the ends of throws inwards.</summary>
    /// <param name="throws">Throws beside each other, in their order.</param>
    /// <param name="spacing">How far apart they are meant to lie, mm.</param>
    public static void Shorten(Span<(Point Left, Point Right)> throws, double spacing)
    {
        // The first and the last lie along the ends, which they have to close.
        var whole = throws.ToArray();
        for (var i = 1; i + 1 < throws.Length; i++)
        {
            throws[i].Left = End(throws, whole, i, throws[i].Left, throws[i].Right, spacing);
            throws[i].Right = End(throws, whole, i, throws[i].Right, throws[i].Left, spacing);
        }
    }

    /// <summary>Where a throw from its other end can stop.</summary>
    private static Point End(ReadOnlySpan<(Point Left, Point Right)> throws, ReadOnlySpan<(Point Left, Point Right)> whole, int number, Point end, Point other, double spacing)
    {
        var length = end.DistanceTo(other);
        if (length <= ShortThrow || !IsUpon(throws, number, end, Upon * spacing)) return end;
        var (inward, stop) = ((other - end).Unit(), 0.0);
        for (var d = 0.0; d <= length - (ShortThrow / 2) && IsClosed(throws, whole, number, end + (inward * d), inward); d += Step) stop = d;
        return stop < Worth ? end : end + (inward * stop);
    }

    /// <summary>Whether a place of a throw lies nearer than a distance to one beside it.</summary>
    private static bool IsUpon(ReadOnlySpan<(Point Left, Point Right)> throws, int number, Point place, double apart)
    {
        WorkBudget.Current.Spend();
        for (var i = Math.Max(0, number - Beside); i <= Math.Min(throws.Length - 1, number + Beside); i++)
            if (i != number && place.DistanceToLine(throws[i].Left, throws[i].Right) < apart)
                return true;
        return false;
    }

    /// <summary>Whether the throws beside one close a place of it.</summary>
    private static bool IsClosed(ReadOnlySpan<(Point Left, Point Right)> throws, ReadOnlySpan<(Point Left, Point Right)> whole, int number, Point place, Point along)
    {
        WorkBudget.Current.Spend();
        var (oneSide, otherSide) = (double.PositiveInfinity, double.PositiveInfinity);
        for (var i = Math.Max(0, number - Beside); i <= Math.Min(throws.Length - 1, number + Beside); i++)
        {
            if (i == number) continue;
            var ((from, to), way) = (throws[i], throws[i].Right - throws[i].Left);
            var part = Math.Clamp((place - from).Dot(way) / Math.Max(way.Dot(way), 1e-12), 0, 1);
            var nearest = from.Toward(to, part) - place;
            var isMoved = part <= 0 ? from != whole[i].Left : part >= 1 && to != whole[i].Right;
            if (Math.Abs(nearest.Dot(along)) > (isMoved ? BeyondMoved : BeyondEnd)) continue;
            var off = nearest.Dot(along.Normal());
            if (off > 0) oneSide = Math.Min(oneSide, off);
            else otherSide = Math.Min(otherSide, -off);
        }

        return oneSide + otherSide <= Closed || Math.Min(oneSide, otherSide) <= OnIt;
    }
}
