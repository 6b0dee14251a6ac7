using System.Text.Json.Nodes;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Jobs;

public class JobRulesTests
{
    private static readonly Job Job = Sampler.Make();

    [Theory]
    [InlineData("shapes/0/stitching/spacing", "1e-6", "spacing can be from")]
    [InlineData("shapes/0/stitching/spacing", "0", "spacing can be from")]
    [InlineData("shapes/0/stitching/stitch_length", "1e-6", "stitch length can be from")]
    [InlineData("shapes/0/stitching/motif_length", "1e-6", "motif can be from")]
    [InlineData("shapes/0/stitching/compensation", "1e9", "pull compensation can be from")]
    [InlineData("shapes/0/stitching/start", "[1e308, 0]", "place that is none")]
    [InlineData("shapes/0/stitching/start", "[1]", "place that is none")]
    [InlineData("shapes/0/stitching/underlay", "[\"Edge\"]", "underlay")]
    [InlineData("shapes/0/stitching/underlay", "[\"77\", \"Edge\"]", "way that is not known")]
    [InlineData("shapes/0/stitching/motif", "\"nothing\"", "motif that is not known")]
    [InlineData("shapes/0/at", "{\"x\": 1e7, \"y\": 0, \"turn\": 0}", "place that is none")]
    [InlineData("parts/0/at", "{\"x\": 0, \"y\": 0, \"turn\": 0, \"size\": {\"across\": 9999, \"down\": 9999, \"lean\": 0}}", "size that cannot be")]
    [InlineData("job/short_title", "\"far too long for any machine\"", "short name")]
    [InlineData("job/next_part", "2", "numbers that cannot be")]
    [InlineData("hoopings", "[]", "hoopings")]
    [InlineData("hoopings/0/machine", "\"../../x\"", "machine or hoop")]
    [InlineData("job/surprise", "1", "“surprise”")]
    [InlineData("parts/0/shade", "1", "“shade”")]
    [InlineData("job/profile", "{\"id\":\"own-1\",\"name\":\"x\",\"weave\":\"Plain\",\"colour\":\"#ffffff\",\"thickness\":0.3,\"satin_spacing\":0.4,\"fill_spacing\":0.4,\"satin_underlay\":[\"Centre\"],\"fill_underlay\":[\"Edge\",\"Light\"],\"compensation\":0.2,\"speed\":100}", "underlay")]
    [InlineData("job/profile", "{\"id\":\"own-1\",\"name\":\"x\",\"weave\":\"Plain\",\"colour\":\"#ffffff\",\"thickness\":1e9,\"satin_spacing\":0.4,\"fill_spacing\":0.4,\"satin_underlay\":[\"Centre\",\"None\"],\"fill_underlay\":[\"Edge\",\"Light\"],\"compensation\":0.2,\"speed\":100}", "thick")]
    public void A_document_that_says_what_cannot_be_is_refused_in_a_sentence(string where, string value, string says)
    {
        var document = JsonNode.Parse(JobDocument.ToJson(Job))!;
        var steps = where.Split('/');
        JsonNode at = document;
        foreach (var step in steps[..^1]) at = int.TryParse(step, out var index) ? at[index]! : at[step]!;
        at[steps[^1]] = JsonNode.Parse(value);
        var refused = Should.Throw<InvalidDataException>(() => JobDocument.FromJson(document.ToJsonString(), MadeUp.ShapesOf(Job), _ => null));
        refused.Message.ShouldContain(says);
        refused.Message.Length.ShouldBeLessThan(240);
    }

    [Fact]
    public void Every_demo_job_and_what_edits_make_of_it_holds()
    {
        JobRules.Check(Job);
        JobRules.Check(new ResizeParts(Job.Order.Select(p => p.Id).ToHashSet(), 3, 2, new(10, 10)).Apply(Job));
        JobRules.Check(new RenameJob("a" + new string('\u0301', 3_000_000)).Apply(Job));
        new RenameJob("a" + new string('\u0301', 3_000_000)).Apply(Job).Title.Length.ShouldBeLessThan(120);
    }

    [Fact]
    public void Parts_that_name_more_stitches_than_a_job_can_have_are_refused_before_any_is_laid()
    {
        var design = MadeUp.Rows([.. Enumerable.Range(0, 4_000).Select(i => (i % 100 * 1.0, i / 100 * 1.0, "one"))]);
        var job = MadeUp.JobOf(design).Job;
        var all = job.Order.Concat(Enumerable.Range(0, 900).SelectMany(n => job.Order.Take(1).Select(p => p with { Id = new(10_000 + n) }))).ToList();
        var slices = job.Order[0].Slices;
        var many = job with { Order = new([.. all.Take(3_000).Select(p => p.WithSlices([slices[0] with { First = 0, Count = design.Stitches.Count }]))]), NextPart = 20_000 };
        Should.Throw<TooMuchWorkException>(() => JobRules.Check(many)).Message.ShouldContain("4,000,000");
        Should.Throw<EditRefusedException>(() => JobRules.CheckStitches(job, _ => design.Stitches.Count - 1)).Message.ShouldContain("not there");
    }

    [Theory]
    [InlineData(double.NaN)]
    [InlineData(double.PositiveInfinity)]
    [InlineData(1e7)]
    public void Stored_stitches_that_lie_nowhere_are_not_read(double x)
    {
        var bytes = new StitchBlob([0, x], [0, 0], [StitchKind.Stitch, StitchKind.Stitch]).ToBytes();
        Should.Throw<InvalidDataException>(() => StitchBlob.FromBytes(bytes));
        Should.Throw<InvalidDataException>(() => StitchBlob.FromBytes([.. new StitchBlob([0], [0], [StitchKind.Stitch]).ToBytes(), 1]));
        Should.Throw<InvalidDataException>(() => StitchBlob.FromBytes(new StitchBlob([0], [0], [StitchKind.ThreadChange]).ToBytes()));
    }

    [Fact]
    public void Work_without_a_budget_goes_on_and_within_one_it_stops_in_words_or_when_nobody_waits()
    {
        for (var i = 0; i < 100_000; i++) WorkBudget.Current.Spend(1_000);
        using (WorkBudget.Begin(TimeSpan.FromMilliseconds(20)))
            Should.Throw<TooMuchWorkException>(() =>
            {
                for (var i = 0L; i < long.MaxValue; i++) WorkBudget.Current.Spend();
            }).Message.ShouldContain("take too long");
        using var nobody = new CancellationTokenSource();
        nobody.Cancel();
        using (WorkBudget.Begin(TimeSpan.FromMinutes(1), nobody.Token)) Should.Throw<OperationCanceledException>(() => WorkBudget.Current.Spend(10_000));
        WorkBudget.Current.Spend(100_000_000); // outside, nothing is left of it
        Should.Throw<TooMuchWorkException>(() => WorkBudget.CheckRecords(4_000_001));
    }

    [Fact]
    public void What_was_not_made_because_somebody_left_is_made_for_the_next()
    {
        var made = new RecentlyMade<int, int>(10, _ => 1);
        Should.Throw<OperationCanceledException>(() => made.Get(1, () => throw new OperationCanceledException()));
        made.Get(1, () => 5).ShouldBe(5);
        var slow = 0;
        var answers = Enumerable.Range(0, 6).AsParallel().WithDegreeOfParallelism(6).Select(_ => made.Get(2, () =>
        {
            Interlocked.Increment(ref slow);
            Thread.Sleep(80);
            return 7;
        })).ToList();
        answers.ShouldAllBe(a => a == 7);
        slow.ShouldBe(1, "the others wait for the one who makes it");
    }

    [Fact]
    public void A_plan_larger_than_any_machine_is_refused_with_its_size()
    {
        Job Apart(double mm) => Job with { Order = new([.. Job.Order.Select((p, i) => p with { Placement = p.Placement.Shifted(i == 0 ? mm : -mm, 0) })]) };
        PlanRules.Check(Sequencer.Plan(Apart(1_900), new MadeUp.OneBlob(StitchBlob.None)));
        Should.Throw<TooMuchWorkException>(() => PlanRules.Check(Sequencer.Plan(Apart(2_100), new MadeUp.OneBlob(StitchBlob.None)))).Message.ShouldContain("up to 4 m");
    }
}
