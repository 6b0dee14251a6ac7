using System.CommandLine;
using System.Globalization;
using EvenThimble.Core.Files.Tables;
using EvenThimble.Core.Files.Threads;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Cli;

/// <summary>Tells what stitch files would be sewn with from a rack, how much of it they take, and what is missing.</summary>
internal sealed class ThreadsCommand : FilesCommand
{
    private const long LargestRack = 16L << 20;
    private readonly Option<string> _rack = new("--rack") { Description = "The rack: a CSV with a line a thread (maker, number, colour, cones, left ...).", Required = true };
    private readonly Option<int> _copies = new("--copies") { Description = "How many times it is sewn.", DefaultValueFactory = _ => 1 };
    private readonly Option<bool> _spunAlike = new("--same-fibre") { Description = "Rayon for rayon only, polyester for polyester, and so on." };

    public ThreadsCommand(TextWriter says, TextWriter errors)
        : base("threads", "Tell what stitch files would be sewn with from a rack, and what is missing.", "Stitch files.", says, errors)
    {
        foreach (var option in new Option[] { _rack, _copies, _spunAlike }) Add(option);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var copies = parsed.GetValue(_copies);
        if (copies is < 1 or > Job.MostCopies) throw new UsageException($"A job is sewn 1 to {Job.MostCopies:N0} times.");
        var charts = new KnownThreads(MadeUpCharts.All);
        var rack = new Lazy<ReadRack>(() => RackList.Read(TypedTable.Read(StitchFiles.Bytes(parsed.GetValue(_rack)!, LargestRack), RackList.MostLines), charts));
        return parsed.GetValue(Inputs)!.Select(input => new Work(input, null, () => Told(input, StitchFiles.Read(input), rack.Value, charts, copies, parsed.GetValue(_spunAlike))));
    }

    private static WorkResult Told(string input, StitchFile design, ReadRack rack, KnownThreads charts, int copies, bool spunAlike)
    {
        var (job, source) = (StitchFiles.JobOf(design), new StitchFiles.Held([design]));
        var plan = Sequencer.Plan(job, source);
        var sewn = SewnFrom.Match(plan, [.. rack.Cones.Select(c => new OwnedThread(c.Thread, c.Make))], t => (t.Number.Length == 0 ? null : charts.Find(t.Maker, t.Number).FirstOrDefault())?.Make ?? ThreadMake.Unknown, _ => null, spunAlike);
        var own = NeedsOf(plan, []).Threads;
        var after = sewn.Changes.IsEmpty ? plan : Sequencer.Plan(new SewInThreads(sewn.Changes, "the rack").Apply(job), source);
        var needs = NeedsOf(after, rack.Cones);
        var missing = needs.Threads.Where(n => !n.IsEnough).ToList();
        var lines = new List<string>
        {
            string.Create(CultureInfo.InvariantCulture, $"{input}: {plan.Threads.Length} threads, {copies} {(copies == 1 ? "copy" : "copies")}, bobbin thread {needs.BobbinMetres:0.0} m"),
        };
        lines.AddRange(sewn.Threads.Select((t, n) => string.Create(CultureInfo.InvariantCulture, $"  {t.From.Label}: {(t.To is { } to ? $"{to.Thread.Label} ({to.Difference:0.0}, {to.Says})" : "nothing on the rack sews like it")}{(t.IsGood ? string.Empty : "; no good match")}, {own[n].TopMetres:0.0} m")));
        lines.AddRange(missing.Select(n => string.Create(CultureInfo.InvariantCulture, $"  missing: {n.Thread.Label}, {n.MissingMetres:0.0} m{(n.Out is { } o ? $"; it runs out in copy {o.Copy} at stitch {o.Stitch}" : string.Empty)}")));
        lines.AddRange(rack.Aside.Select(a => $"  line {a.Line} of the rack was kept aside: {a.Why}"));
        return new(lines, new
        {
            copies,
            bobbinMetres = Math.Round(needs.BobbinMetres, 3),
            differenceSum = Math.Round(sewn.Sum, 4),
            threads = sewn.Threads.Select((t, n) => new
            {
                maker = t.From.Maker,
                number = t.From.Number,
                name = t.From.Name,
                colour = t.From.Colour.Hex,
                topMetres = Math.Round(own[n].TopMetres, 3),
                bobbinMetres = Math.Round(own[n].BobbinMetres, 3),
                match = t.To is { } to ? Candidate(to) : null,
                good = t.IsGood,
                shared = t.IsShared,
                losesContrast = t.LosesContrast,
                next = t.Next.Select(Candidate),
            }),
            fetch = needs.Threads.Select(n => new
            {
                maker = n.Thread.Maker,
                number = n.Thread.Number,
                name = n.Thread.Name,
                topMetres = Math.Round(n.TopMetres, 3),
                onRackMetres = Math.Round(n.Cone?.LeftMetres ?? 0, 3),
                cones = n.Cone?.Count ?? 0,
                stands = n.Cone?.Stands,
                leftAfterMetres = Math.Round(n.LeftAfter, 3),
                missingMetres = Math.Round(n.MissingMetres, 3),
                runsOut = n.Out is { } o ? new { copy = o.Copy, stitch = o.Stitch } : null,
            }),
            rackAside = rack.Aside.Select(a => new { line = a.Line, text = a.Text, why = a.Why }),
        });

        ThreadNeeds NeedsOf(SewingPlan sewn, IReadOnlyList<Cone> cones) =>
            ThreadNeeds.Of(sewn, SewingEstimate.Of(sewn, StitchFiles.Machines.Usual, job.Cloth.Profile.ThicknessMm).Threads, job.Cloth.Profile.ThicknessMm, copies, cones);
    }

    private static object Candidate(ThreadCandidate c) => new { maker = c.Thread.Maker, number = c.Thread.Number, name = c.Thread.Name, colour = c.Thread.Colour.Hex, difference = Math.Round(c.Difference, 4), says = c.Says };
}
