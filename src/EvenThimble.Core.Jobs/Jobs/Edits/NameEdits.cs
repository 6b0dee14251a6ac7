using System.Collections.Immutable;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>Places a name slot, to be sewn last.</summary>
public sealed record AddNameSlot(NameSlotContent Content, Placement At) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (job.Order.Count + Content.Shapes.Length > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
        return job.With(NameOf(Content), Content, At);
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Placed a {NameOf(Content)}";

    /// <summary>What a slot is called.</summary>
    public static string NameOf(NameSlotContent content) => $"Name slot {LengthText.Decimals(content.Slot.WidthMm, 1)} × {LengthText.Decimals(content.Slot.HeightMm, 1)}";
}

/// <summary>Gives a slot other rules, or shows another name in it.</summary>
public sealed record ChangeNameSlot(PieceId Piece, NameSlotContent Content) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (job.Pieces.FirstOrDefault(p => p.Id == Piece) is not { Content: NameSlotContent } piece) throw new EditRefusedException("That name slot is no longer in this job.");
        var changed = job.WithContentAnew(Piece, Content, NameSlot.Of(piece).At);
        return changed with { Pieces = [.. changed.Pieces.Select(p => p.Id == Piece ? p with { Name = AddNameSlot.NameOf(Content) } : p)] };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => before.Pieces.FirstOrDefault(p => p.Id == Piece)?.Content is NameSlotContent old && old.Slot == Content.Slot
        ? $"Shows {Content.Text.ReplaceLineEndings(" / ")} in the slot"
        : $"Changed the {AddNameSlot.NameOf(Content)}";
}

/// <summary>Shows the name of a person in the slots of a job.</summary>
/// <param name="Name">The name, for the history.</param>
/// <param name="Slots">By slot how it is laid.</param>
public sealed record ShowName(string Name, ImmutableArray<(PieceId Slot, NameSlotContent Content)> Slots) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => Slots.Aggregate(job, (now, slot) => now.WithContentAnew(slot.Slot, slot.Content, NameSlot.Of(now.Pieces.First(p => p.Id == slot.Slot)).At));

    /// <inheritdoc/>
    public override string Label(Job before) => $"Shows {Name}";
}

/// <summary>Takes a roster for the names of a job. People who stay keep what was set for them by hand.</summary>
public sealed record TakeRoster(Roster Roster, long? Kept) : JobEdit
{
    /// <summary>What is shown in the slots with it; null: they show what they show.</summary>
    public ShowName? Shows { get; init; }

    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        Roster.Check();
        var people = Roster.People.Select(p => p.Id).ToHashSet();
        var same = job.Names is { } before && before.Kept == Kept ? before : null;
        var with = job with
        {
            Names = new JobNames(Roster, Kept)
            {
                FileRule = job.Names?.FileRule ?? JobNames.UsualFileRule,
                Own = [.. (same?.Own ?? []).Where(o => people.Contains(o.Person))],
                Proofed = [.. (same?.Proofed ?? []).Where(p => people.Contains(p.Person))],
            },
        };
        return Shows?.Apply(with) ?? with;
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Took {Roster.People.Length} names of {Roster.Name}";
}

/// <summary>Sews a job without names; its slots show what they show.</summary>
public sealed record LeaveRoster : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => job with { Names = null };

    /// <inheritdoc/>
    public override string Label(Job before) => "Left the roster out";
}

/// <summary>Sets a name otherwise for one person: its spelling, its lines, its height.</summary>
public sealed record SetOwnName(OwnName Own) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (job.Names is not { } names || names.Roster.People.All(p => p.Id != Own.Person)) throw new EditRefusedException("That person is no longer in the roster of this job.");
        if (Own.CapitalMm is { } mm && !(mm >= LetteringWish.Capitals.Least && mm <= LetteringWish.Capitals.Most)) throw new EditRefusedException($"Capitals can be from {LetteringWish.Capitals.Least:0} to {LetteringWish.Capitals.Most:0} mm high.");
        return job with { Names = names.With(Own) };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Own switch
    {
        { Text: { } text } => $"Set {text.ReplaceLineEndings(" / ")} by hand",
        { CapitalMm: { } mm } => $"Set a name {LengthText.Decimals(mm, 1)} mm high",
        _ => "Put a name back to the roster's",
    };
}

/// <summary>Keeps what a customer has seen on a proof, so that what changes afterwards is marked.</summary>
public sealed record KeepProof(ImmutableArray<ProofedName> Names) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => job.Names is { } names ? job with { Names = names with { Proofed = Names } } : throw new EditRefusedException("This job has no names.");

    /// <inheritdoc/>
    public override string Label(Job before) => Names.IsEmpty ? "Forgot the proof" : "Proof sheet made";
}

/// <summary>Calls the files of the names otherwise.</summary>
public sealed record NameFiles(string Rule) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        var rule = Titles.Clean(Rule);
        if (rule.Length == 0) throw new EditRefusedException("Write how files are called, such as {nn}-{name}.");
        return job.Names is { } names ? job with { Names = names with { FileRule = rule } } : throw new EditRefusedException("This job has no names.");
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Called files {Rule}";
}
