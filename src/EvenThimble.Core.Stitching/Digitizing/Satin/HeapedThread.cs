using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Where finished stitches lie so thick that the needle would cut the thread below, as where throws fan out about an inner corner or a stroke goes on under another: there throws end sooner or are left out, as long
/// as others close all that they leave.
/// </summary>
internal static class HeapedThread
{
    /// <summary>With more thread than 14 mm on a mm², wherever its edges lie, a needle cuts what is below; with a margin for those that are not looked at, mm.</summary>
    public const double Harmful = 13.6;

    /// <summary>So far about a part of the cloth is looked what is heaped and what lies alone, mm.</summary>
    public const double About = 2;

    /// <summary>So many times as much as usual may be bare where too much thread is left otherwise.</summary>
    public const double Lenient = 2;

    /// <summary>So many times where nothing else helps.</summary>
    public const double MostLenient = 4;

    // What was changed last may lie a little differently than it was counted, and fewer mm² are looked at while it is.
    private const double NearlyHarmful = Harmful - 1.7;

    // Thread on a mm² is heaped from so much on, mm; so much more is worth a longer search.
    private const double Heaped = 11.5;
    private const double FarTooMuch = 13.2;

    // With more cells than so many nothing is looked at.
    private const int MostCells = 3_000_000;

    // A part of the cloth holds so many throws before and after those to a heap.
    private const int Neighbours = 3;

    // So often all heaps are gone over.
    private const int MostRounds = 6;

    // A piece that lay alone before is hardly longer when it is looked at again, mm.
    private const double Same = 0.1;

    /// <summary>Takes thread out of a run where it is heaped, unless more would lie alone then.</summary>
    /// <param name="run">The run.</param>
    /// <param name="inside">The squares of its area.</param>
    /// <param name="layout">The strokes of that.</param>
    /// <param name="longest">No stitch may be longer, mm.</param>
    /// <param name="lenience">How many times as much as usual may be bare after it: hardly anybody sees that either, but a hand would avoid it.</param>
    /// <returns>Whether some is nearly too much for a cloth still.</returns>
    public static bool Thin(List<Point> run, BitGrid inside, StrokeLayout layout, double longest, double lenience = 1)
    {
        var box = Box.Around(run).Grown(About);
        if (HeapMap.Squares(box) > HeapMap.MostSquares) return false;
        using var heaps = new HeapMap(box, Ties.Tied(run), Heaped);
        if (!heaps.HasHeaps) return false;
        foreach (var part in Parts(run, heaps)) Thin(run, part, heaps, inside, layout, longest, lenience);
        heaps.Look(box);
        return heaps.Most > NearlyHarmful;
    }

    /// <summary>The parts of the cloth that hold all throws to heaps and their neighbours; so far from each other that each is looked at alone.</summary>
    private static List<Box> Parts(List<Point> run, HeapMap heaps)
    {
        var (turns, _) = ThinnedThrows.Turns(run);
        var heat = Enumerable.Range(1, turns.Count - 1).Select(k => heaps.Heat(turns[k - 1], turns[k])).ToArray();
        var parts = new List<Box>();
        for (var k = 1; k < turns.Count - 1; k++)
        {
            if (heat[k - 1] + heat[k] < ThinnedThrows.Worth) continue;
            var part = Box.Around(turns[Math.Max(0, k - Neighbours)..Math.Min(turns.Count, k + Neighbours + 1)]);
            for (var i = parts.Count - 1; i >= 0; i--)
            {
                if (!parts[i].Meets(part.Grown(2 * About))) continue;
                part = part.With(parts[i]);
                parts.RemoveAt(i);
                i = parts.Count;
            }

            parts.Add(part);
        }

        return parts;
    }

    private static void Thin(List<Point> run, Box part, HeapMap heaps, BitGrid inside, StrokeLayout layout, double longest, double lenience)
    {
        if (ThrowCells.Count(part) > MostCells) return;
        using var cells = new ThrowCells(part.Grown(ThinnedThrows.Margin));
        var throws = new ThinnedThrows(run, heaps, cells, part, inside, layout, lenience);
        var (about, known, spared) = (part.Grown(About), default(List<LonePiece>), new List<LonePiece>());
        for (var round = 0; round < MostRounds && throws.Thin(spared); round++)
        {
            var (thinner, changed) = (throws.Sewn(longest), throws.Changed.Grown(About));
            if (Alone(thinner, changed) is { Count: > 0 } lone)
            {
                // Where more lies alone than did before, what was changed about it is undone, and it is spared from then on.
                spared.AddRange(lone);
                throws.Undo(box => lone.Exists(p => IsAbout(p, box)));
                thinner = throws.Sewn(longest);
                if (Alone(thinner, changed).Count > 0)
                {
                    throws.Undo(_ => true);
                    continue;
                }
            }

            Take(thinner);
        }

        // Where far too much is left, what comes to lie alone is hidden rather than spared.
        heaps.Look(about);
        if (heaps.Most < FarTooMuch || !throws.Thin([])) return;
        var last = throws.Sewn(longest);
        LoneThread.Hide(last, inside, layout, longest, about);
        if (Alone(last, about).Count == 0) Take(last);
        else throws.Undo(_ => true);

        // What of a thinner run lies alone that did not before.
        List<LonePiece> Alone(List<Point> thinner, Box changed)
        {
            known ??= ShowingThread.Alone(run, about, LoneThread.Unseen);
            return ShowingThread.Alone(thinner, changed, LoneThread.Unseen).FindAll(p => !known.Exists(k => k.Length + Same >= p.Length && k.Middle.DistanceTo(p.Middle) < ThinnedThrows.Spared));
        }

        void Take(List<Point> thinner)
        {
            throws.Keep();
            run.Clear();
            run.AddRange(thinner);
        }
    }

    private static bool IsAbout(LonePiece piece, Box box) => box.Grown(ThinnedThrows.Spared + (piece.Length / 2)).Holds(piece.Middle);
}
