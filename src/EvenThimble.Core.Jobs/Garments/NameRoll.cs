using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Names;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Garments;

/// <summary>What is to be looked at of a name, the worst last.</summary>
[Flags]
public enum NameFlags
{
    /// <summary>Nothing.</summary>
    None = 0,

    /// <summary>It is written in another font than is wanted.</summary>
    OtherFont = 1,

    /// <summary>Its letters are narrower than the font has them.</summary>
    Narrower = 2,

    /// <summary>It is spelled otherwise than the customer has seen it.</summary>
    ChangedSinceProof = 4,

    /// <summary>Too many of its stitches are too short.</summary>
    ShortStitches = 8,

    /// <summary>Its height differs from the usual one by more than 15 percent.</summary>
    OffMedian = 16,

    /// <summary>Its letters are as narrow as they may become.</summary>
    Narrowest = 32,

    /// <summary>It is lower than its font sews well at.</summary>
    BelowGood = 64,

    /// <summary>It cannot be sewn.</summary>
    Refused = 128,
}

/// <summary>A name in one slot.</summary>
/// <param name="Slot">The piece of the slot.</param>
/// <param name="Text">What stands there.</param>
/// <param name="Content">How it is laid; null: it cannot be.</param>
/// <param name="Refused">Why it cannot be, in a sentence.</param>
/// <param name="Flags">What is to be looked at.</param>
/// <param name="Own">What was set for it by hand.</param>
public sealed record SlotName(PieceId Slot, string Text, NameSlotContent? Content, string? Refused, NameFlags Flags, OwnName? Own);

/// <summary>One person of a roster with all that is sewn for them.</summary>
/// <param name="Number">In the order of the roster, from 1.</param>
/// <param name="Person">Who.</param>
/// <param name="Slots">By slot, in the order of the job.</param>
public sealed record RollName(int Number, Person Person, ImmutableArray<SlotName> Slots)
{
    /// <summary>All that is to be looked at.</summary>
    public NameFlags Flags => Slots.Aggregate(NameFlags.None, (all, s) => all | s.Flags);

    /// <summary>Whether it can be sewn.</summary>
    public bool CanBeSewn => Slots.All(s => s.Content is not null);

    /// <summary>The name as it is read, in one line.</summary>
    public string Text => string.Join(", ", Slots.Select(s => s.Text.ReplaceLineEndings(" ")).Where(t => t.Length > 0));
}

/// <summary>Names that were fitted lately, so that of a long roster only what was changed is fitted again.</summary>
public sealed class NameFits
{
    private const int Most = 6_000;

    private readonly RecentlyMade<(NameSlot Slot, string Text, double? CapitalMm, string LettersOfAll, double CompensationMm, Threads.SewingThread Thread), NameSlotContent> _made = new(Most, _ => 1);

    internal NameSlotContent Get(NameSlot slot, string text, double? capitalMm, string lettersOfAll, ClothProfile cloth, Threads.SewingThread thread, Func<NameSlotContent> make) =>
        _made.Get((slot, text, capitalMm, lettersOfAll, cloth.CompensationMm, thread), make);
}

/// <summary>All names of a job, each fitted to its slots.</summary>
public sealed class NameRoll
{
    /// <summary>Names whose height differs from the median by more than this part of it stand out.</summary>
    public const double OffMedianFrom = 0.15;

    // More than this part of the stitches, those that tie the thread aside, are shorter than the needle can tell apart.
    private const double ShortFrom = 0.05;
    private const int TiedAtEnds = 8;
    private readonly Job _job;
    private readonly ILetterFaces _faces;
    private readonly NameFits? _fits;
    private readonly ImmutableDictionary<PieceId, (NameSlot Slot, Placement At, Threads.SewingThread Thread)> _slots;
    private readonly Dictionary<(PieceId, string), LineReach> _reach = [];
    private readonly Dictionary<PieceId, string> _letters = [];

    private NameRoll(Job job, ILetterFaces faces, NameFits? fits)
    {
        (_job, _faces, _fits, Names) = (job, faces, fits, job.Names ?? throw new EditRefusedException("This job has no names yet. Take a roster."));
        _slots = job.Pieces.Where(p => p.Content is NameSlotContent && job.Order.Any(o => o.Piece == p.Id)).ToImmutableDictionary(p => p.Id, p => NameSlot.Of(p) is var (slot, at) ? (slot, at, ThreadOf(job, p.Id)) : default);
        if (_slots.IsEmpty) throw new EditRefusedException("This job has no name slot yet. Place one with Names on the bench.");
        var slots = job.Pieces.Where(p => _slots.ContainsKey(p.Id)).Select(p => p.Id).ToList();
        All = [.. Names.Roster.People.Select((person, n) => new RollName(n + 1, person, [.. slots.Select(slot => Fitted(person, slot))]))];
        Medians = slots.ToImmutableDictionary(s => s, s => Median(All.Select(r => r.Slots.First(n => n.Slot == s).Content?.CapitalMm).OfType<double>()));
        All = [.. All.Select(r => r with { Slots = [.. r.Slots.Select(WithMedian)] })];
    }

    /// <summary>What the job says of its names.</summary>
    public JobNames Names { get; }

    /// <summary>Everybody, in the order of the roster.</summary>
    public ImmutableArray<RollName> All { get; }

    /// <summary>By slot the height of capitals that half of the names are not higher than, mm.</summary>
    public ImmutableDictionary<PieceId, double> Medians { get; }

    /// <summary>Fields that a slot names and the roster does not have: they are left empty.</summary>
    public IReadOnlyList<string> UnknownFields => [.. _slots.Values.SelectMany(s => SlotText.FieldsIn(s.Slot.Pattern)).Where(f => Names.Roster.FieldNumber(f) < 0).Distinct(StringComparer.OrdinalIgnoreCase)];

    /// <summary>Everybody, those first that have to be looked at most.</summary>
    public IEnumerable<RollName> WorstFirst => All.OrderByDescending(r => (int)r.Flags).ThenBy(r => r.Slots.Min(s => s.Content?.CapitalMm ?? 0)).ThenBy(r => r.Slots.Min(s => s.Content?.Wish.Condense ?? 0)).ThenBy(r => r.Number);

    /// <summary>The smallest height of capitals in a slot, mm.</summary>
    public double SmallestIn(PieceId slot) => All.Select(r => r.Slots.First(s => s.Slot == slot).Content?.CapitalMm).OfType<double>().DefaultIfEmpty(0).Min();

    /// <summary>Fits all names of a job.</summary>
    /// <exception cref="EditRefusedException">It has no roster or no slot; a sentence.</exception>
    public static NameRoll Of(Job job, ILetterFaces faces, NameFits? fits = null) => new(job, faces, fits);

    /// <summary>A slot with a text by itself, or among the names of a job where it has any.</summary>
    public static NameSlotContent Shown(Job job, PieceId? slot, NameSlot rules, string text, ILetterFaces faces, Threads.SewingThread thread)
    {
        var texts = job.Names is { } names ? names.Roster.People.Select(p => slot is { } id ? names.TextOf(p, id, rules.Pattern) : SlotText.Of(rules.Pattern, names.Roster, p)).ToList() : [text];
        return NameSlotContent.Lay(rules, text, faces, face => LineReach.Of(face, texts), job.Cloth.Profile, thread);
    }

    /// <summary>The same roll with its names stitched, and those told whose stitches are too short.</summary>
    /// <param name="source">The job's stitches.</param>
    /// <param name="memory">What was stitched lately.</param>
    public NameRoll Stitched(IStitchSource source, StitchMemory memory) => new(this, [.. All.Select(name =>
    {
        WorkBudget.Current.Spend();
        if (!name.CanBeSewn) return name;
        var (job, plan) = Planned(name, source, memory);
        var tooShort = name.Slots.Where(s => HasShortStitches(plan, job.Order.Where(p => p.Piece == s.Slot).Select(p => p.Id).ToHashSet())).Select(s => s.Slot).ToHashSet();
        return tooShort.Count == 0 ? name : name with { Slots = [.. name.Slots.Select(s => tooShort.Contains(s.Slot) ? s with { Flags = s.Flags | NameFlags.ShortStitches } : s)] };
    })]);

    /// <summary>The stitches of a name alone, where they lie beside the design.</summary>
    public SewingPlan Plan(RollName name, IStitchSource source, StitchMemory memory) => Planned(name, source, memory).Plan;

    /// <summary>The edit that shows a name in the slots of the job, as far as it can be laid.</summary>
    public ShowName Show(RollName name) => new(name.Text, [.. name.Slots.Where(s => s.Content is not null).Select(s => (s.Slot, s.Content!))]);

    /// <summary>The job as it is sewn for one person.</summary>
    public Job JobFor(RollName name)
    {
        if (!name.CanBeSewn) throw new EditRefusedException(name.Slots.First(s => s.Content is null).Refused!);
        return name.Slots.Aggregate(_job, (job, slot) => job.WithContentAnew(slot.Slot, slot.Content!, _slots[slot.Slot].At)) with { Title = name.Text.Length == 0 ? _job.Title : Titles.Clean(name.Text), ShortTitle = null, Names = null, Copies = 1 };
    }

    /// <summary>The thread of a slot's letters: that of most of its parts.</summary>
    public static Threads.SewingThread ThreadOf(Job job, PieceId slot) => job.Order.Where(p => p.Piece == slot).GroupBy(p => p.Thread).MaxBy(g => g.Count())!.Key;

    private NameRoll(NameRoll of, ImmutableArray<RollName> all) => (_job, _faces, _fits, _slots, Names, Medians, All) = (of._job, of._faces, of._fits, of._slots, of.Names, of.Medians, all);

    private (Job Job, SewingPlan Plan) Planned(RollName name, IStitchSource source, StitchMemory memory)
    {
        var (job, slots) = (JobFor(name), name.Slots.Select(s => s.Slot).ToHashSet());
        job = job with { Order = new([.. job.Order.Where(p => slots.Contains(p.Piece))]) };
        return (job, Sequencer.Plan(job, source, memory));
    }

    private static bool HasShortStitches(SewingPlan plan, HashSet<PartId> parts)
    {
        var (shorter, all, records) = (0, 0, plan.Records);
        foreach (var part in plan.Parts.Where(p => parts.Contains(p.Id)))
        {
            for (var i = part.First + TiedAtEnds; i < part.End - TiedAtEnds; i++)
            {
                if (records.Kinds[i] != StitchKind.Stitch || records.Kinds[i - 1] != StitchKind.Stitch) continue;
                all++;
                if (records.At(i).DistanceTo(records.At(i - 1)) < Limits.ShortestStitch - 1e-6) shorter++;
            }
        }

        return shorter > ShortFrom * all;
    }

    private SlotName Fitted(Person person, PieceId slot)
    {
        var (rules, _, thread) = _slots[slot];
        var (own, text) = (Names.OwnOf(person.Id, slot), Names.TextOf(person, slot, rules.Pattern));
        WorkBudget.Current.Spend(1000);
        try
        {
            NameSlotContent Lay() => NameSlotContent.Lay(rules, text, _faces, face => ReachOf(slot, face), _job.Cloth.Profile, thread, own?.CapitalMm);
            var laid = _fits is null ? Lay() : _fits.Get(rules, text, own?.CapitalMm, LettersOf(slot), _job.Cloth.Profile, thread, Lay);
            var flags = (laid.Fit.HasFlag(SlotFit.OtherFont) ? NameFlags.OtherFont : 0) | (laid.Fit.HasFlag(SlotFit.BelowGood) ? NameFlags.BelowGood : 0)
                | (laid.Wish.Condense <= rules.LeastCondense + 1e-6 && rules.LeastCondense < 1 ? NameFlags.Narrowest : laid.Fit.HasFlag(SlotFit.Narrower) ? NameFlags.Narrower : 0)
                | (Names.Proofed.FirstOrDefault(p => p.Person == person.Id && p.Slot == slot) is var proofed && (proofed is null ? !Names.Proofed.IsEmpty : proofed.Text != text) ? NameFlags.ChangedSinceProof : 0);
            return new(slot, text, laid, null, flags, own);
        }
        catch (EditRefusedException e)
        {
            return new(slot, text, null, e.Message, NameFlags.Refused, own);
        }
    }

    /// <summary>The plain letters of all names of a slot: what the line that they share depends on.</summary>
    private string LettersOf(PieceId slot)
    {
        if (_letters.TryGetValue(slot, out var known)) return known;
        return _letters[slot] = new([.. Names.Roster.People.SelectMany(p => Names.TextOf(p, slot, _slots[slot].Slot.Pattern)).Where(char.IsAsciiLetterOrDigit).Distinct().Order()]);
    }

    private LineReach ReachOf(PieceId slot, LetterFace face)
    {
        if (_reach.TryGetValue((slot, face.Name), out var known)) return known;
        return _reach[(slot, face.Name)] = LineReach.Of(face, Names.Roster.People.Select(p => Names.TextOf(p, slot, _slots[slot].Slot.Pattern)));
    }

    private SlotName WithMedian(SlotName name) =>
        name.Content is { } content && Math.Abs(content.CapitalMm - Medians[name.Slot]) > OffMedianFrom * Medians[name.Slot] ? name with { Flags = name.Flags | NameFlags.OffMedian } : name;

    private static double Median(IEnumerable<double> heights) => heights.Order().ToList() is { Count: > 0 } sorted ? (sorted[(sorted.Count - 1) / 2] + sorted[sorted.Count / 2]) / 2 : 0;
}
