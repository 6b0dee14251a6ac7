using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Splitting;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Respacing;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Tests.Recognition;

/// <summary>What the user tells of stitches holds in place of what they were read as, wherever they go.</summary>
public class CorrectionsTests
{
    private static StitchBlob Heart => RingSamples.All.Single(s => s.Name == "heart").Stitches;

    private static ReadStitches Told(StitchBlob blob, ReadAs readAs) => ReadStitches.Of(blob, [new(0, blob.Count - 1, readAs)]);

    /// <summary>Rows about a place in no order that any reading knows: lines close beside each other, joined anyhow.</summary>
    internal static StitchBlob Tangle(double width = 20, double height = 24)
    {
        const double step = 2.5, apart = 0.4;
        var (random, builder) = (new Random(5), new StitchBuilder());
        var lines = Enumerable.Range(0, (int)(height / apart)).OrderBy(_ => random.Next()).ToList();
        foreach (var line in lines)
            for (var s = 0; s <= width / step; s++)
                builder.Stitch(new(s * step, (line * apart) + (1.2 * Math.Sin(s * 0.9))));
        return builder.ToBlob();
    }

    [Fact]
    public void Left_as_it_is_every_stitch_is_kept()
    {
        var read = Told(Heart, ReadAs.AsItIs);
        read.SpacingMm.ShouldBe(0);
        read.NotUnderstood.ShouldBe(0);
        var made = Respacer.Make(read, new(1.7, 1.7), default);
        made.CountOf(StitchKind.Stitch).ShouldBe(Heart.CountOf(StitchKind.Stitch));
        Respacer.Make(read, Sizing.Original, new() { SpacingTimes = 1.4 }).Hash.ShouldBe(Heart.Hash);
    }

    [Fact]
    public void Told_to_be_a_line_it_keeps_its_stitch()
    {
        var made = Respacer.Make(Told(Heart, ReadAs.Line), new(2, 2), default);
        (StitchLook.Thread(made) / StitchLook.Thread(Heart)).ShouldBe(2, 0.1);
        (made.Count / (double)Heart.Count).ShouldBe(2, 0.35);
    }

    [Fact]
    public void Told_to_be_a_fill_what_was_not_understood_is_filled_anew()
    {
        var tangle = Tangle();
        var read = ReadStitches.Of(tangle);
        read.NotUnderstood.ShouldBeGreaterThan(0.5);
        Corrections.Possible(tangle, read.Passages.MaxBy(p => p.Stitches)!).ShouldBe([ReadAs.Fill, ReadAs.Line, ReadAs.AsItIs]);
        var told = Told(tangle, ReadAs.Fill);
        told.SpacingMm.ShouldBe(0.4, 0.1);
        var box = MakingMeasures.Scaled(tangle, 1.6, 1.6).BoundsOf(0, tangle.Count);
        var made = Respacer.Make(told, new(1.6, 1.6), default);

        // As much thread on each square millimetre as before, within the same bounds, where it would lie half as close.
        var density = StitchLook.Thread(made) / (box.Width * box.Height);
        Respacer.Make(read, new(1.6, 1.6), default).Count.ShouldBeLessThan(made.Count);
        density.ShouldBeInRange(0.75 / 0.4, 1.4 / 0.4);
        made.BoundsOf(0, made.Count).Width.ShouldBe(box.Width, 1.5);
    }

    [Fact]
    public void Satin_and_fill_can_be_taken_for_each_other_and_lines_for_neither()
    {
        foreach (var sample in BoughtStitches.All.Where(s => s.Name is "bar 5 0.4 True" or "rectangle Slant Even 0.4" or "rectangle Step Grid 0.4"))
            foreach (var readAs in new[] { ReadAs.Satin, ReadAs.Fill })
            {
                var read = Told(sample.Stitches, readAs);
                read.Passages.Where(p => p.Rungs.Length > 20).ShouldAllBe(p => p.Told == readAs && p.Kind == (readAs == ReadAs.Satin ? PassageKind.Satin : PassageKind.Fill));
                var made = Respacer.Make(read, new(1.3, 1.3), default);
                made.Count.ShouldBeGreaterThan(sample.Stitches.Count);
                made.BoundsOf(0, made.Count).Width.ShouldBe(sample.Stitches.BoundsOf(0, sample.Stitches.Count).Width * 1.3, 1, $"{sample.Name} as {readAs}");
            }

        var line = Makings.All.First(s => s.Way == "line of one stitch").Stitches;
        Corrections.Possible(line, ReadStitches.Of(line).Passages[1]).ShouldBe([ReadAs.Line, ReadAs.AsItIs]);
        Told(line, ReadAs.Fill).Passages.ShouldAllBe(p => p.Told == null);
    }

    [Fact]
    public void What_is_told_stays_through_a_document_splitting_and_underlay_left_out()
    {
        var file = MadeUp.Rows((0, 0, "a"));
        var (job, source) = MadeUp.JobOf(file with { Stitches = Heart, Parts = [file.Parts[0] with { First = 0, Count = Heart.Count }] });
        var id = job.Order[0].Id;
        var told = new TellReading(id, 0, 0, Heart.Count - 1, ReadAs.AsItIs).Apply(job);
        MadeUp.Reread(told).ShouldBe(told);
        told.ShouldNotBe(job);
        new TellReading(id, 0, 0, Heart.Count - 1, null).Apply(told).ShouldBe(job);

        // Each half of it is still left as it is.
        var split = Splitter.AtNeedle(told, Sequencer.Plan(told, source), Heart.Count / 2, source).Apply(told);
        var grown = new ResizeParts(split.Order.Select(p => p.Id).ToHashSet(), 1.5, 1.5, Point.Zero).Apply(split);
        Sequencer.Plan(grown, source).Records.CountOf(StitchKind.Stitch).ShouldBeInRange(Heart.Count, Heart.Count + 12, "ties at the cut only");
        new JoinParts(split.Order.Select(p => p.Id).ToHashSet()).Apply(split).ShouldBe(told);

        // Records move when underlay goes; what was told moves with them.
        var satin = Makings.All.First(s => s.Way == "satin with underlay").Stitches;
        var read = ReadStitches.Of(satin);
        var seen = read.Passages.Last(p => p.Rungs.Length > 100);
        var thinned = Thinning.WithoutUnderlay(ReadStitches.Of(satin, [new(seen.First, seen.Last, ReadAs.AsItIs)]));
        thinned.Stitches.Count.ShouldBeLessThanOrEqualTo(satin.Count);
        thinned.Passages.Single(p => p.Told is not null).Stitches.ShouldBeInRange(seen.Stitches - 2, seen.Stitches + 2);
    }

    [Fact]
    public void What_is_told_anew_takes_the_place_of_what_was_told_and_nonsense_is_refused()
    {
        var told = ToldReadings.None.With(0, 100, ReadAs.Line).With(100, 200, ReadAs.Fill).With(50, 120, ReadAs.Satin);
        told.All.ShouldBe([new(50, 120, ReadAs.Satin)]);
        told.With(0, 60, null).ShouldBe(ToldReadings.None);
        Should.Throw<EditRefusedException>(() => ToldReadings.None.With(5, 5, ReadAs.Line));
        Should.Throw<EditRefusedException>(() => ToldReadings.None.With(-1, 5, ReadAs.Line));
        Should.Throw<EditRefusedException>(() => ToldReadings.None.With(0, 5, (ReadAs)9));
        var many = ToldReadings.Of(Enumerable.Range(0, ToldReadings.Most).Select(i => new ToldReading(i * 10, (i * 10) + 5, ReadAs.Line)));
        Should.Throw<EditRefusedException>(() => many.With(100_000, 100_005, ReadAs.Line)).Message.ShouldContain("by hand");
        var (job, _) = MadeUp.JobOf(MadeUp.Rows((0, 0, "a")));
        Should.Throw<EditRefusedException>(() => new TellReading(job.Order[0].Id, 0, 3, 4_000, ReadAs.Line).Apply(job)).Message.ShouldContain("no longer there");
        Should.Throw<EditRefusedException>(() => new TellReading(job.Order[0].Id, 4, 0, 5, ReadAs.Line).Apply(job));
    }
}
