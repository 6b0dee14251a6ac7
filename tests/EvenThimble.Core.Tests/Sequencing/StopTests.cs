using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Tests.Sequencing;

/// <summary>Where the machine waits for cloth to be laid or trimmed the thread is cut once, whatever is done to the parts.</summary>
public class StopTests
{
    /// <summary>A placement line, a tack-down and a cover over it, with a stop after each of the first two; how the thread is cut there differs from maker to maker.</summary>
    private static StitchFile Applique(string atStop)
    {
        var (builder, parts) = (new StitchBuilder(), new List<StitchFilePart>());
        Sew("Bark", PartRole.PlacementLine, Enumerable.Range(0, 81).Select(i => At(i / 80.0, 0)));
        Stop("Lay the cloth");
        Sew("Sand", PartRole.TackDown, Enumerable.Range(0, 161).Select(i => At(i / 160.0, i % 2 == 0 ? -1 : 1)));
        Stop("Trim the cloth");
        Sew("Dusk", PartRole.Cover, Enumerable.Range(0, 1601).Select(i => At(i / 1600.0, i % 2 == 0 ? -1.8 : 1.8)));
        builder.Trim();
        parts[^1] = parts[^1] with { Count = parts[^1].Count + 1 };
        return new("Appliqué", builder.ToBlob(), [.. parts]);

        Point At(double turn, double aside) => new((25 + aside) * Math.Cos(turn * 2 * Math.PI), (25 + aside) * Math.Sin(turn * 2 * Math.PI));

        void Sew(string thread, PartRole role, IEnumerable<Point> points)
        {
            var (first, all) = (builder.Count, points.ToList());
            builder.Jump(all[0]);
            for (var k = 0; k < 4; k++) builder.Stitch(all[0] + new Point(k % 2 * 0.6, 0));
            foreach (var p in all.Skip(1)) builder.Stitch(p);
            for (var k = 1; k < 4; k++) builder.Stitch(all[^1] + new Point(k % 2 * 0.6, 0));
            parts.Add(new(first, builder.Count - first, MadeUp.Thread(thread), role));
        }

        void Stop(string message)
        {
            var first = builder.Count;
            if (atStop == "trim, stop") builder.Trim();
            builder.Stop(message);
            if (atStop == "stop, trim") builder.Trim();
            parts[^1] = parts[^1] with { Count = parts[^1].Count + builder.Count - first };
        }
    }

    public static TheoryData<string, string> Cases()
    {
        var data = new TheoryData<string, string>();
        foreach (var at in new[] { "trim, stop", "stop, trim", "stop" })
            foreach (var done in new[] { "nothing", "smaller", "larger", "stretched", "lighter", "without underlay", "without short ones", "moved one by one", "one thread", "only what is seen", "all of it" })
                data.Add(at, done);
        return data;
    }

    [Theory]
    [MemberData(nameof(Cases))]
    public void At_a_stop_the_thread_is_cut_once(string atStop, string done)
    {
        var file = Applique(atStop);
        var (job, source) = MadeUp.JobOf(file);
        var all = job.Order.Select(p => p.Id).ToHashSet();
        JobEdit[] edits = done switch
        {
            "smaller" => [new ResizeParts(all, 0.8, 0.8, Point.Zero)],
            "larger" => [new ResizeParts(all, 1.3, 1.2, Point.Zero)],
            "stretched" => [new ChooseResizeMode(all, ResizeMode.Stretch), new ResizeParts(all, 0.9, 0.9, Point.Zero)],
            "lighter" => [new ChangeSpacing(all, 1.3)],
            "without underlay" => [new LeaveOutUnderlay(all, true)],
            "without short ones" => [new LeaveOutShort(all, 0.5)],
            "moved one by one" => [.. job.Order.Select((p, i) => new ShiftParts(new HashSet<PartId> { p.Id }, i, -i))],
            "one thread" => [new Recolour(all, MadeUp.Thread("Moss"))],
            "only what is seen" => [new SewOnlySeen(true)],
            "all of it" => [new ResizeParts(all, 0.8, 0.8, Point.Zero), new ChangeSpacing(all, 1.2), new LeaveOutUnderlay(all, true), new Recolour(all, MadeUp.Thread("Moss")), new SewOnlySeen(true)],
            _ => [],
        };
        foreach (var edit in edits) job = edit.Apply(job);
        var whole = Sequencer.Plan(job, source);
        var plan = job.SewsOnlySeen ? Covering.Apply(job, whole).Plan : whole;
        var stops = Enumerable.Range(0, plan.Records.Count).Where(i => plan.Records.Kinds[i] == StitchKind.Stop).ToList();
        stops.Select(i => plan.Records.Messages[i]).ShouldBe(["Lay the cloth", "Trim the cloth"]);
        foreach (var stop in stops)
        {
            var (from, to) = (stop, stop);
            while (plan.Records.Kinds[from - 1] != StitchKind.Stitch) from--;
            while (plan.Records.Kinds[to + 1] != StitchKind.Stitch) to++;
            var trims = Enumerable.Range(from, to - from + 1).Count(i => plan.Records.Kinds[i] == StitchKind.Trim);
            if (atStop == "stop") trims.ShouldBeLessThanOrEqualTo(1);
            else trims.ShouldBe(1);
        }
    }
}
