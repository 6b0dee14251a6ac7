using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Respacing;

/// <summary>
/// Makes bought stitches anew at a size, a spacing, or without some of them. What was read as satin or fill keeps its edges and gets as many throws or rows as its spacing asks for;
/// lines keep their stitch, and are left as they are where only the spacing changes; ties stay small. What was not understood keeps every stitch. Order, ways and cuts of the thread stay as
/// they were.
/// </summary>
public static class Respacer
{
    // The way in which a row ends is told by a needle point at least this far before, mm.
    private const double ClearWay = 1.0;

    /// <summary>The stitches, sized but neither turned nor moved.</summary>
    public static StitchBlob Make(ReadStitches read, Sizing size, Rework rework) => MakeTold(read, size, rework).Stitches;

    /// <summary>The same, with what of them was told by hand.</summary>
    public static MadeStitches MakeTold(ReadStitches read, Sizing size, Rework rework)
    {
        if (rework.WithoutUnderlay) read = Thinning.WithoutUnderlay(read);
        var spaced = rework.Mode == ResizeMode.Respace && !(size.IsOriginal && (rework.SpacingTimes ?? 1) == 1);
        var made = spaced ? Spaced(read, size, rework.SpacingTimes ?? 1) : new(size.IsOriginal ? read.Stitches : Stretched(read.Stitches, size), read.Told);
        if (rework.ShorterThanMm <= 0) return made;
        var thinned = Thinning.WithoutShort(ReadStitches.Of(made.Stitches, made.Told), rework.ShorterThanMm);
        return new(thinned.Stitches, thinned.Told);
    }

    private static StitchBlob Stretched(StitchBlob blob, Sizing size)
    {
        var (x, y) = (new double[blob.Count], new double[blob.Count]);
        for (var i = 0; i < x.Length; i++) (x[i], y[i]) = size.Apply(blob.At(i)) is var p ? (p.X, p.Y) : default;
        return new(x, y, blob.Kinds.ToArray(), blob.Messages);
    }

    private static MadeStitches Spaced(ReadStitches read, Sizing size, double lighter)
    {
        var making = new Remaking(read, size, lighter);
        var threads = Threads(making, read);
        Mending.Close(read, making, threads);
        return Written(making, read, threads);
    }

    /// <summary>Every unbroken thread made anew, in their order.</summary>
    private static List<SewnThread> Threads(Remaking making, ReadStitches read)
    {
        var (passages, threads) = (read.Passages, new List<SewnThread>());
        for (var next = 0; next < passages.Length;)
        {
            making.Begin(passages[next].First);
            threads.Add(making.Thread);
            for (var begins = true; next < passages.Length && (begins || passages[next - 1].Last == passages[next].First); next++, begins = false)
            {
                WorkBudget.Current.Spend(passages[next].Stitches);
                making.EndsAnywhere = IsCutAfter(read, next);
                Make(making, passages[next], begins);
                making.Thread.End(passages[next]);
            }
        }

        return threads;
    }

    /// <summary>The records of threads made anew, and those that lie between them.</summary>
    private static MadeStitches Written(Remaking making, ReadStitches read, List<SewnThread> threads)
    {
        var (blob, told, made) = (read.Stitches, new List<ToldReading>(), new StitchBuilder(read.Stitches.Count));
        for (int i = 0, next = 0; i < blob.Count; i++)
        {
            if (next < threads.Count && threads[next].First == i)
            {
                Write(made, told, threads[next]);
                i = threads[next++].Last;
            }
            else if (blob.Kinds[i] == StitchKind.Stop) made.Stop(blob.Messages.GetValueOrDefault(i, string.Empty));
            else if (blob.Kinds[i] == StitchKind.Trim) made.Trim();
            else made.Add(blob.Kinds[i], making.Sized(i));
        }

        return new(made.ToBlob(), told);
    }

    /// <summary>Writes a thread. What grew longer than a machine sews is divided, lines of long stitches and what was not understood too.</summary>
    private static void Write(StitchBuilder made, List<ToldReading> told, SewnThread thread)
    {
        made.Stitch(thread.Points[0]);
        foreach (var (begin, end, passage) in thread.Stretches)
        {
            var first = made.Count - 1;
            for (var k = begin; k < end; k++)
            {
                var (from, to) = (thread.Points[k], thread.Points[k + 1]);
                var pieces = Math.Max(1, (int)Math.Ceiling(from.DistanceTo(to) / Limits.LongestStitch));
                for (var s = 1; s <= pieces; s++) made.Stitch(s == pieces ? to : from.Toward(to, s / (double)pieces));
            }

            if (passage.Told is { } readAs && made.Count - 1 > first) told.Add(new(first, made.Count - 1, readAs));
        }
    }

    /// <summary>Whether after a passage, but for a tie, the thread is cut: after a jump that is not cut it would lie across the rows.</summary>
    private static bool IsCutAfter(ReadStitches read, int passage)
    {
        var last = read.Passages[passage].Last;
        if (passage + 1 < read.Passages.Length && read.Passages[passage + 1] is { Kind: PassageKind.Tie } tie && tie.First == last) last = tie.Last;
        return last + 1 >= read.Stitches.Count || read.Stitches.Kinds[last + 1] is StitchKind.Trim or StitchKind.Stop;
    }

    private static void Make(Remaking making, Passage passage, bool begins)
    {
        if ((!passage.HasSpacing || passage.Confidence < Passage.Sure) && making.Size.IsOriginal && !making.EndsAcross) Kept(making, passage);
        else if (passage.Kind == PassageKind.Tie) Tie(making, passage, begins);
        else if (passage.Confidence < Passage.Sure || passage.IsDrawn || (passage.Rungs.Length == 0 && passage.StitchLength == 0)) Plain(making, passage);
        else if (passage.InRings) new RingMaking(making, passage).Make();
        else if (passage.Rungs.Length == 0) LineMaking.Make(making, passage);
        else if (passage.Bent) new BentRowMaking(making, passage).Make();
        else if (passage.Stepped) new RowMaking(making, passage).Make();
        else new ThrowMaking(making, passage).Make();
    }

    /// <summary>Every stitch as it was: a line has no spacing, and what was not understood has none that is known.</summary>
    private static void Kept(Remaking making, Passage passage)
    {
        for (var i = passage.First + 1; i <= passage.Last; i++) making.Run.Add(making.Was(i));
    }

    /// <summary>Every stitch, longer or shorter, but for those that would become too short to sew.</summary>
    private static void Plain(Remaking making, Passage passage)
    {
        for (var i = passage.First + 1; i < passage.Last; i++) making.Add(making.Sized(i));
        making.EndAt(making.Sized(passage.Last));
    }

    /// <summary>A tie stays as small as it was, about the place that the rest of the stitches hangs on.</summary>
    private static void Tie(Remaking making, Passage passage, bool begins)
    {
        var held = begins ? passage.Last : passage.First;
        Point Way(int i) => (making.Sized(i) - making.Sized(held)).Unit() * making.Was(i).DistanceTo(making.Was(held));
        var at = making.Sized(held);
        var turn = 0.0;
        if (!begins && making is { EndsAcross: true, Run.Count: > 1 })
        {
            // Where the last row ends on its other side the tie lies to it as it lay to the old one.
            at = making.Run[^1];
            var (old, now) = (held - 1, making.Run.Count - 2);
            while (old > 0 && making.Was(old).DistanceTo(making.Was(held)) < ClearWay) old--;
            while (now > 0 && making.Run[now].DistanceTo(at) < ClearWay) now--;
            turn = Turn.Between(making.Sized(held) - making.Sized(old), at - making.Run[now]);
        }

        Point Small(int i) => at + Way(i).Turned(turn, Point.Zero);
        if (begins) making.Run[^1] = Small(passage.First);
        for (var i = passage.First + 1; i <= passage.Last; i++) making.Run.Add(Small(i));
    }
}
