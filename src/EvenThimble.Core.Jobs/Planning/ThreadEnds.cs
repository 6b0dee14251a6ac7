using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Planning;

/// <summary>Where a thread begins and ends within a plan: whether it is cut and tied there, and the ties that it lacks.</summary>
internal static class ThreadEnds
{
    /// <summary>Whether the thread is cut already; the machine may wait after that.</summary>
    public static bool IsCut(StitchBuilder builder)
    {
        var last = builder.Count - 1;
        while (last >= 0 && builder.KindAt(last) == StitchKind.Stop) last--;
        return last < 0 || builder.KindAt(last) == StitchKind.Trim;
    }

    /// <summary>Ties and cuts the end of what was sewn, unless it is cut already.</summary>
    public static void Finish(StitchBuilder builder)
    {
        if (builder.Count == 0 || IsCut(builder)) return;
        TieOff(builder);
        builder.Trim();
    }

    /// <summary>Ties the end of what was sewn, back along its last stitch, unless it is tied already.</summary>
    public static void TieOff(StitchBuilder builder)
    {
        var last = builder.Count - 1;
        if (last < 1 || builder.Last != StitchKind.Stitch || IsTied(i => last - i >= 0 && builder.KindAt(last - i) == StitchKind.Stitch ? builder.At(last - i) : null)) return;
        var back = last - 1;
        while (back > 0 && builder.At(back).DistanceTo(builder.Needle) < Limits.TieStitch / 2) back--;
        Ties.Tie(builder, builder.Needle, builder.At(back));
    }

    /// <summary>Sews the first of the needle points that come next and ties it, unless they are ties themselves; tells whether it did.</summary>
    /// <param name="builder">What was sewn before.</param>
    /// <param name="next">The needle points to come, from 0; null where the unbroken run of them ends.</param>
    public static bool TieIn(StitchBuilder builder, Func<int, Point?> next)
    {
        if (next(0) is not { } at || next(1) is not { } toward || IsTied(next) || HeldSteps.Begin([.. Unbroken(next)])) return false;
        for (var i = 2; toward.DistanceTo(at) < Limits.TieStitch / 2 && next(i) is { } farther; i++) toward = farther;
        builder.Stitch(at);
        Ties.Tie(builder, at, toward);
        return true;
    }

    /// <summary>The needle points to come, up to where the unbroken run of them ends.</summary>
    private static IEnumerable<Point> Unbroken(Func<int, Point?> next)
    {
        for (var i = 0; next(i) is { } point; i++) yield return point;
    }

    /// <summary>Whether small stitches hold the thread at the end from which points are given.</summary>
    private static bool IsTied(Func<int, Point?> pointAt)
    {
        const int among = 5, enough = 3;
        var small = 0;
        for (var i = 0; i < among && pointAt(i) is { } a && pointAt(i + 1) is { } b; i++)
            if (a.DistanceTo(b) <= Limits.TieStitch * 1.5 && (i == 0 || pointAt(0) is { } first && first.DistanceTo(b) <= Limits.TieStitch * 1.5))
                small++;
        return small >= enough;
    }
}
