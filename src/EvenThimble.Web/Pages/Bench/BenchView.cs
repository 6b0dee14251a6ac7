using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Planning.Splitting;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What a request sees of the bench: the job as it stands, what is selected, which task is open. Tasks and cards work from it.</summary>
public sealed class BenchView(IServiceProvider services, OpenJob open, Preferences look, string? parts, BenchTask task, CancellationToken cancel)
{
    private IReadOnlyList<ClothProfile>? _cloths;
    private Box? _footprint;
    private IReadOnlyList<Finding>? _findings;

    /// <summary>The job with all that is computed from it.</summary>
    public OpenJob Open { get; } = open;

    /// <summary>The job.</summary>
    public Job Job => Open.Job;

    /// <summary>What the person chose for the look of things.</summary>
    public Preferences Look { get; } = look;

    /// <summary>Selected parts as the request named them, numbers with commas.</summary>
    public string Parts { get; } = parts ?? string.Empty;

    /// <summary>The task that is open.</summary>
    public BenchTask Task { get; } = task;

    /// <summary>Ends when nobody waits for the answer any more.</summary>
    public CancellationToken Cancel { get; } = cancel;

    /// <summary>Machines to choose from.</summary>
    public MachineCatalogue Machines { get; } = services.GetRequiredService<MachineCatalogue>();

    /// <summary>The cloths that can be chosen.</summary>
    public IReadOnlyList<ClothProfile> Cloths => _cloths ??= Get<ClothStore>().All;

    /// <summary>What readiness found, of the job and of the thread for it, the most serious first.</summary>
    public IReadOnlyList<Finding> Findings => _findings ??= [.. Open.Findings.Concat(Get<ThreadBox>().FindingsOf(Open)).OrderByDescending(f => f.Level)];

    /// <summary>Readiness in a few words, thread included.</summary>
    public string Readiness => (Open.Summary with { ToLookAt = Findings.Count(f => f.Level != FindingLevel.Note) }).Readiness;

    /// <summary>The selected parts that are in the job.</summary>
    public IReadOnlyList<Part> Selected { get; } = Chosen(open.Job, parts);

    /// <summary>The selected parts that were drawn here.</summary>
    public IReadOnlyList<Part> SelectedDrawn => [.. Selected.Where(p => p.Drawn is not null)];

    /// <summary>The selected parts that came as stitches.</summary>
    public IReadOnlyList<Part> SelectedBought => [.. Selected.Where(p => p.Drawn is null)];

    /// <summary>The rectangle about what is selected, or about everything.</summary>
    public Box SelectedBounds => Selected.Count == 0 ? Open.Plan.Bounds : Open.Plan.BoundsOf(Selected.Select(p => p.Id).ToHashSet());

    /// <summary>The rectangle about what is selected, or about everything, as it came and at its size: exactly what sizes are reckoned by.</summary>
    public Box Footprint => _footprint ??= Core.Planning.Splitting.PartStitches.BoundsOf(SelectedOrAll, Get<JobDesk>().Stitches);

    /// <summary>What is selected, or everything.</summary>
    public IReadOnlyList<Part> SelectedOrAll => Selected.Count > 0 ? Selected : Job.Order;

    /// <summary>The size that everything selected has in common, or null.</summary>
    public Sizing? CommonSize => SelectedOrAll.Select(p => p.Placement.Size).Distinct().ToList() is [var one] ? one : null;

    /// <summary>What is selected, in words.</summary>
    public string SelectionInWords => Selected.Count switch
    {
        0 => "Nothing selected: this moves everything.",
        1 => Selected[0].Name,
        var n when n == Job.Order.Count => $"All {n} parts",
        var n => $"{n} of {Job.Order.Count} parts",
    };

    /// <summary>A service of the application.</summary>
    public T Get<T>()
        where T : notnull => services.GetRequiredService<T>();

    /// <summary>Whether a part is selected.</summary>
    public bool IsSelected(Part part) => Selected.Any(p => p.Id == part.Id);

    /// <summary>The selected parts as the request named them; those that are gone are among them, so that an edit can say so.</summary>
    public HashSet<PartId> ChosenIds() => Ids(Parts);

    /// <summary>The selected parts, or all.</summary>
    public IReadOnlySet<PartId> ChosenOrAll() => ChosenIds() is { Count: > 0 } chosen ? chosen : Job.Order.Select(p => p.Id).ToHashSet();

    /// <summary>What moves together: pieces; parts of one piece each by itself.</summary>
    public List<HashSet<PartId>> Groups()
    {
        var groups = Selected.GroupBy(p => p.Piece).Select(g => g.Select(p => p.Id).ToHashSet()).ToList();
        return groups.Count == 1 && Selected.Count > 1 ? [.. Selected.Select(p => new HashSet<PartId> { p.Id })] : groups;
    }

    /// <summary>The thread of a number in the job's palette, as a form has it; null: none is chosen.</summary>
    public SewingThread? PaletteThread(int? number) => number is { } n && n >= 0 && n < Job.Palette.Threads.Length ? Job.Palette.Threads[n] : null;

    /// <summary>A length as typed, mm.</summary>
    /// <exception cref="EditRefusedException">It is none.</exception>
    public double Typed(string? text) => LengthText.TryParse(text, Look.Unit, out var mm) ? mm : throw new EditRefusedException("That is not a length. Type a number, such as 12.5, 3cm or 1/2in.");

    /// <summary>An angle as typed, degrees.</summary>
    /// <exception cref="EditRefusedException">It is none.</exception>
    public static double Degrees(string? text) =>
        double.TryParse(text?.Trim().TrimEnd('°').Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var by) ? by : throw new EditRefusedException("That is not an angle. Type degrees, such as 15 or -90.");

    /// <summary>A part of a hundred as typed.</summary>
    /// <exception cref="EditRefusedException">It is none.</exception>
    public static double Percent(string text) =>
        double.TryParse(text.TrimEnd('%', ' ').Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var percent) && double.IsFinite(percent) ? percent : throw new EditRefusedException("That is not a percentage. Type a number such as 80.");

    /// <summary>Needle points of a planned part.</summary>
    public static int StitchesOf(SewingPlan plan, PlannedPart part) => plan.Records.Kinds.Slice(part.First, part.Count).Count(StitchKind.Stitch);

    /// <summary>The record of the plan that lies nearest to a place in a part, to be shown.</summary>
    public int RecordNear(PartId id, Point at)
    {
        var part = Open.Plan.Parts.First(p => p.Id == id);
        return part.Count == 0 ? 0 : Enumerable.Range(part.First, part.Count).MinBy(i => Open.Plan.Records.At(i).DistanceTo(at));
    }

    /// <summary>The address that does a command.</summary>
    /// <exception cref="ArgumentException">There is no such command.</exception>
    public string Do(string command) => BenchRegistry.Commands.ContainsKey(command) ? $"/jobs/{Open.Stored.Id}/do/{command}" : throw new ArgumentException($"There is no command {command}.");

    /// <summary>The address of a piece of a card, or of anything else that a task answers.</summary>
    /// <exception cref="ArgumentException">There is none.</exception>
    public string Part(string name) => (BenchParts.AskedOf(name) ?? BenchParts.SentTo(name)) is not null ? $"/jobs/{Open.Stored.Id}/part/{name}" : throw new ArgumentException($"Nothing answers to {name}.");

    /// <summary>The same bench with the job as it stands after a change.</summary>
    public BenchView With(OpenJob changed) => new(services, changed, Look, Parts, Task, Cancel);

    /// <summary>The same bench with another task open.</summary>
    public BenchView In(BenchTask other) => new(services, Open, Look, Parts, other, Cancel);

    /// <summary>Numbers of parts, with commas; what is none is passed over.</summary>
    public static HashSet<PartId> Ids(string? ids) =>
        [.. (ids ?? string.Empty).Split(',', StringSplitOptions.RemoveEmptyEntries).Select(p => int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? new PartId(id) : default).Where(id => id.Value > 0)];

    private static IReadOnlyList<Part> Chosen(Job job, string? parts) => Ids(parts) is { Count: > 0 } chosen ? [.. job.Order.Where(p => chosen.Contains(p.Id))] : [];
}
