using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Names;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Garments;

/// <summary>The files that a roster is sewn with on a machine. Each is made when it is asked for.</summary>
/// <param name="job">The job with its names.</param>
/// <param name="roll">Its names, laid.</param>
/// <param name="source">Its stitches.</param>
/// <param name="machines">The machines.</param>
/// <param name="machine">The one that sews.</param>
/// <param name="field">Its hoop.</param>
/// <param name="faces">The fonts at hand.</param>
/// <param name="memory">What was stitched lately.</param>
public sealed class GarmentFiles(Job job, NameRoll roll, IStitchSource source, MachineCatalogue machines, SewingMachineModel machine, HoopField field, ILetterFaces faces, StitchMemory memory)
{
    // A message of a stop has at most so many bytes in a file.
    private const int MostMessageBytes = 120;
    private readonly Job _job = job.Hoopings.Length == 1 ? job
        : throw new EditRefusedException("The job is divided among several hoopings. Names are sewn in one: make it one hooping, or place the names in a job of their own.");

    /// <summary>Those that cannot be sewn: they are in no file.</summary>
    public IReadOnlyList<RollName> LeftOut { get; } = [.. roll.All.Where(r => !r.CanBeSewn)];

    private IReadOnlyList<RollName> Sewn { get; } = [.. roll.All.Where(r => r.CanBeSewn)];

    /// <summary>What the files are called and what they sew, in order; nothing of them is stitched for this.</summary>
    /// <param name="way">How the roster is sewn.</param>
    /// <param name="part">What of the job.</param>
    /// <param name="heads">On how many heads at once.</param>
    /// <exception cref="EditRefusedException">It cannot be sewn so; a sentence.</exception>
    public IReadOnlyList<(string Stem, ImmutableArray<SewnGarment> Garments)> Listed(SewingWay way, SewnPart part, int heads)
    {
        if (part != SewnPart.DesignOnly && roll.All.Length == 0) throw new EditRefusedException("There is nobody in the roster.");
        if (way == SewingWay.Rounds && (heads < 1 || heads > machine.Heads)) throw new EditRefusedException($"{machine.Name} has {machine.Heads} heads; {heads} cannot sew at once.");
        if (part != SewnPart.DesignOnly && Sewn.Count == 0) throw new EditRefusedException($"None of the names can be sewn. Line 1: {LeftOut[0].Slots.First(s => s.Content is null).Refused}");
        var names = new FileNames(machine);
        if (part == SewnPart.DesignOnly) return [(names.Free(job.Title), [])];
        return way switch
        {
            SewingWay.EachGarment => [.. Sewn.Select(r => (names.Free(Called(r)), ImmutableArray.Create(new SewnGarment(r, null, r.Person.Quantity))))],
            SewingWay.OneFile => [(names.Free($"{job.Title} names"), [.. Sewn.Select(r => new SewnGarment(r, null, r.Person.Quantity))])],
            _ => [.. Sewn.SelectMany(r => Enumerable.Repeat(r, r.Person.Quantity)).Chunk(heads).Select((round, n) => (names.Free($"{job.Title} round {n + 1}"), round.Select((r, h) => new SewnGarment(r, h + 1, 1)).ToImmutableArray()))],
        };
    }

    /// <summary>All files, one after the other as they are asked for.</summary>
    /// <exception cref="EditRefusedException">It cannot be sewn so; a sentence.</exception>
    public IEnumerable<GarmentFile> All(SewingWay way, SewnPart part, int heads = 1)
    {
        foreach (var (stem, garments) in Listed(way, part, heads))
        {
            WorkBudget.Current.Spend();
            yield return Made(stem, garments, way, part);
        }
    }

    /// <summary>One file of the list.</summary>
    public GarmentFile Made(string stem, ImmutableArray<SewnGarment> garments, SewingWay way, SewnPart part)
    {
        if (garments.IsEmpty) return Alone(stem, job.Title, garments, Without(_job));
        if (way == SewingWay.EachGarment) return Alone(stem, garments[0].Name.Text, garments, Kept(roll.JobFor(garments[0].Name), part));
        var joined = new JoinedPlans();
        var (findings, note) = (new List<Finding>(), (HoopNote?)null);
        if (way == SewingWay.Rounds)
        {
            var heads = garments.Length == machine.Heads ? "all heads" : garments.Length == 1 ? "the design on head 1 only" : $"heads 1 to {garments.Length} only";

            // What sews after the names, such as an outline that closes over them, does so here too.
            var (before, after) = part == SewnPart.All ? Around(_job) : (null, null);
            if (before is not null) Add(before, $"{heads}: {job.Title}");
            foreach (var garment in garments) Add(Kept(roll.JobFor(garment.Name), SewnPart.NamesOnly), $"head {garment.Head} only: {garment.Name.Text}");
            if (after is not null) Add(after, $"{heads}: what closes {job.Title}");
        }
        else
        {
            foreach (var garment in garments)
                for (var copy = 1; copy <= garment.Copies; copy++)
                    Add(Kept(roll.JobFor(garment.Name), part), $"{garment.Name.Number}: {garment.Name.Text}{(garment.Name.Person.Garment.Length > 0 ? $", {garment.Name.Person.Garment}" : string.Empty)}{(garment.Copies > 1 ? $", {copy} of {garment.Copies}" : string.Empty)}");
        }

        var plan = joined.Plan;
        if (plan.StitchCount > machine.MostStitches) findings.Add(new("too-many-stitches", FindingLevel.Trouble, $"{plan.StitchCount.ToString("N0", CultureInfo.InvariantCulture)} stitches in one file are more than {machine.Name} takes ({machine.MostStitches.ToString("N0", CultureInfo.InvariantCulture)}).", "Write a file for each garment."));
        if (machine.MostThreadChanges is { } most && plan.ThreadChanges > most) findings.Add(new("too-many-changes", FindingLevel.Trouble, $"{plan.ThreadChanges} thread changes in one file are more than {machine.Name} takes ({most}).", "Write a file for each garment."));
        return new(stem, TitleOn(stem), garments, plan, note!, [.. findings.DistinctBy(f => (f.Key, f.Says)).OrderByDescending(f => f.Level)]);

        void Add(Job of, string message)
        {
            var (one, hoop, its) = Planned(of);
            note ??= hoop;
            findings.AddRange(its);
            joined.Add(one, Message(message));
        }
    }

    private GarmentFile Alone(string stem, string title, ImmutableArray<SewnGarment> garments, Job of)
    {
        var (plan, note, findings) = Planned(of);
        return new(stem, TitleOn(title), garments, plan, note, findings);
    }

    /// <summary>What the machine does for a job, with what holds the cloth, and its readiness.</summary>
    private (SewingPlan Plan, HoopNote Note, ImmutableArray<Finding> Findings) Planned(Job of)
    {
        of = new ChooseHoop(machine, field).Apply(of);
        var plan = Sequencer.Plan(of, source, memory);
        var hooped = HoopedJob.Of(of, plan, machines);

        // The name of the job is looked at by the title of each file.
        return (hooped.Hoopings[0].AtMachine, hooped.Hoopings[0].Note, [.. Inspector.Inspect(of, plan, machine, field, machines, faces, hooped).Where(f => f.Key != Inspector.NameKey)]);
    }

    private Job Kept(Job of, SewnPart part) => part == SewnPart.NamesOnly ? OfPieces(of, slot: true) : of;

    private static Job Without(Job of) => OfPieces(of, slot: false) is { Order.Count: > 0 } design ? design : throw new EditRefusedException("Beside the names there is nothing in this job.");

    /// <summary>What sews before the names, and what after them; null: nothing.</summary>
    private static (Job? Before, Job? After) Around(Job of)
    {
        var slots = of.Pieces.Where(p => p.Content is NameSlotContent).Select(p => p.Id).ToHashSet();
        var first = of.Order.TakeWhile(p => !slots.Contains(p.Piece)).Count();
        var (before, after) = (of.Order.Take(first).ToList(), of.Order.Skip(first).Where(p => !slots.Contains(p.Piece)).ToList());
        return (before.Count > 0 ? of with { Order = new([.. before]) } : null, after.Count > 0 ? of with { Order = new([.. after]) } : null);
    }

    private static Job OfPieces(Job of, bool slot)
    {
        var slots = of.Pieces.Where(p => p.Content is NameSlotContent).Select(p => p.Id).ToHashSet();
        return of with { Order = new([.. of.Order.Where(p => slots.Contains(p.Piece) == slot)]) };
    }

    private string TitleOn(string title) => machine.NameLength is { } most && (title.Length > most || !Titles.IsPlain(title)) ? Titles.Plain(title, most) : title;

    private string Called(RollName name)
    {
        var digits = Math.Max(2, roll.All.Length.ToString(CultureInfo.InvariantCulture).Length);
        return SlotText.Filled(roll.Names.FileRule, field => field.ToUpperInvariant() switch
        {
            "NN" => name.Number.ToString($"D{digits}", CultureInfo.InvariantCulture),
            "NAME" => name.Text,
            "TITLE" => job.Title,
            "GARMENT" => name.Person.Garment,
            _ => roll.Names.Roster.FieldNumber(field) >= 0 ? roll.Names.Roster.ValueOf(name.Person, field) : null,
        });
    }

    private static string Message(string text)
    {
        var message = Titles.Clean(text);
        while (Encoding.UTF8.GetByteCount(message) > MostMessageBytes) message = message[..^(char.IsLowSurrogate(message[^1]) ? 2 : 1)];
        return message;
    }

    /// <summary>File names that a machine takes, never two alike.</summary>
    private sealed class FileNames(SewingMachineModel machine)
    {
        private const int Longest = 80;
        private readonly HashSet<string> _taken = new(StringComparer.OrdinalIgnoreCase);

        public string Free(string wanted)
        {
            var most = machine.NameLength ?? Longest;
            var name = machine.NameLength is null ? Titles.FileName(wanted) : Titles.Plain(wanted, int.MaxValue);
            for (var n = 1; ; n++)
            {
                var behind = n == 1 ? string.Empty : $"-{n}";
                var free = Cut(name, most - behind.Length) + behind;
                if (_taken.Add(free)) return free;
            }
        }

        private static string Cut(string name, int most)
        {
            if (name.Length <= most) return name;
            var cut = name[..most];
            return (char.IsHighSurrogate(cut[^1]) ? cut[..^1] : cut).TrimEnd(' ', '-', '.');
        }
    }

    /// <summary>Plans that are sewn one after the other in one file, with a stop and its message before each.</summary>
    private sealed class JoinedPlans
    {
        private readonly StitchBuilder _builder = new(4096);
        private readonly List<PlannedPart> _parts = [];

        public SewingPlan Plan => new(_builder.ToBlob(), [.. _parts]);

        public void Add(SewingPlan plan, string message)
        {
            ThreadEnds.Finish(_builder);

            // What ends the one before belongs to its last part.
            if (_parts.Count > 0) _parts[^1] = _parts[^1] with { Count = _builder.Count - _parts[^1].First };
            var stop = _builder.Count;
            _builder.Stop(message);
            for (var n = 0; n < plan.Parts.Length; n++)
            {
                var part = plan.Parts[n];
                var first = n == 0 ? stop : _builder.Count;
                _builder.Append(plan.Records, part.First, part.End);
                _parts.Add(part with { First = first, Count = _builder.Count - first });
            }
        }
    }
}
