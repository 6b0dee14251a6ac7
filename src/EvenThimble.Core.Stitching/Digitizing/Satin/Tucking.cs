using EvenThimble.Core.Craft;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>How throws at the end of a stroke tuck under another stroke: only what that leaves of the ground is thrown.</summary>
internal static class Tucking
{
    /// <summary>Takes the ground of throws, but for an edge as wide as others are to tuck under it, mm.</summary>
    public static void Take(AreaCells ground, double tuck, List<Rung> rungs)
    {
        for (var i = 1; i < rungs.Count; i++)
        {
            var (a, b) = (Drawn(rungs[i - 1]), Drawn(rungs[i]));
            ground.Take(a.Left, b.Left, b.Right, a.Right);
        }

        Rung Drawn(Rung r)
        {
            var by = r.Width < 1e-9 ? 0 : Math.Min(tuck / r.Width, 0.35);
            return r with { Left = r.Left.Toward(r.Right, by), Right = r.Right.Toward(r.Left, by) };
        }
    }

    /// <summary>Of rungs, from the clear part on, what others leave; as far as it goes on without a break.</summary>
    public static List<Rung> Left(IEnumerable<Rung> rungs, Rung? last, AreaCells ground)
    {
        var left = new List<Rung>();
        foreach (var rung in rungs)
        {
            if (Left(rung, ground) is not { } part || (last is { } l && !Faces(l, part))) break;
            left.Add(part);
            last = part;
        }

        return left;
    }

    /// <summary>The longest part of a rung on ground that nobody has taken; null when none is worth a throw.</summary>
    private static Rung? Left(Rung rung, AreaCells ground)
    {
        var pieces = Math.Max(2, (int)Math.Ceiling(rung.Width / (0.7 * ground.Size)));
        var (from, best, run) = (0, (From: 0, Count: 0), 0);
        for (var k = 0; k <= pieces; k++)
        {
            if (ground.At(rung.Left.Toward(rung.Right, k / (double)pieces)) == AreaCells.Taken)
            {
                run = 0;
                continue;
            }

            if (run++ == 0) from = k;
            if (run > best.Count) best = (from, run);
        }

        if (best.Count == pieces + 1) return rung;
        if ((best.Count - 1) * rung.Width / pieces < Limits.ShortestStitch) return null;
        var (l, r) = (rung.Left.Toward(rung.Right, best.From / (double)pieces), rung.Left.Toward(rung.Right, (best.From + best.Count - 1) / (double)pieces));
        var tucked = (best.From > 0 ? Sides.Left : Sides.None) | (best.From + best.Count <= pieces ? Sides.Right : Sides.None);
        return rung with { Left = l, Right = r, Middle = l.Toward(r, 0.5), Tucked = tucked };
    }

    /// <summary>Whether a rung goes on from another: they face each other, and do not lie at different sides of something.</summary>
    private static bool Faces(Rung from, Rung to)
    {
        var across = (from.Left - from.Right).Unit();
        var (l, r) = ((to.Left - from.Right).Dot(across), (to.Right - from.Right).Dot(across));
        return Math.Max(l, r) > 0 && Math.Min(l, r) < from.Width;
    }
}
