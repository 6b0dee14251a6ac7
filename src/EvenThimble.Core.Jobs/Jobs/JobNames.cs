using System.Collections.Immutable;
using EvenThimble.Core.Names;

namespace EvenThimble.Core.Jobs;

/// <summary>What is otherwise for one person in one slot.</summary>
/// <param name="Person">Whose name.</param>
/// <param name="Slot">In which slot.</param>
/// <param name="Text">Spelled or broken into lines otherwise; null: as the slot has it.</param>
/// <param name="CapitalMm">The height of its capitals, mm; null: by the rules of the slot.</param>
public sealed record OwnName(PersonId Person, PieceId Slot, string? Text, double? CapitalMm);

/// <summary>A text that a customer has seen on a proof.</summary>
/// <param name="Person">Whose.</param>
/// <param name="Slot">In which slot.</param>
/// <param name="Text">As it was shown.</param>
public sealed record ProofedName(PersonId Person, PieceId Slot, string Text);

/// <summary>The names that a job is sewn with. The roster is kept as it was taken: what becomes of it elsewhere changes no job.</summary>
/// <param name="Roster">The roster.</param>
/// <param name="Kept">The number of the roster that it was taken from; null: it is not among those that are kept.</param>
public sealed record JobNames(Roster Roster, long? Kept)
{
    /// <summary>How files are called unless the user has it otherwise.</summary>
    public const string UsualFileRule = "{nn}-{name}";

    /// <summary>Names that are otherwise than the slot has them.</summary>
    public ImmutableArray<OwnName> Own { get; init; } = [];

    /// <summary>What the customer has seen; empty: nothing yet.</summary>
    public ImmutableArray<ProofedName> Proofed { get; init; } = [];

    /// <summary>How files are called: words, fields in braces, <c>{nn}</c> for the number, <c>{name}</c> for the text, <c>{title}</c> for the job's title.</summary>
    public string FileRule { get; init; } = UsualFileRule;

    /// <summary>What is otherwise for a person in a slot; null: nothing.</summary>
    public OwnName? OwnOf(PersonId person, PieceId slot) => Own.FirstOrDefault(o => o.Person == person && o.Slot == slot);

    /// <summary>What a person has in a slot.</summary>
    public string TextOf(Person person, PieceId slot, string pattern) => OwnOf(person.Id, slot)?.Text ?? SlotText.Of(pattern, Roster, person);

    /// <summary>The same with something otherwise for a person; nothing of it left, it is as the slot has it.</summary>
    public JobNames With(OwnName own) => this with { Own = [.. Own.Where(o => (o.Person, o.Slot) != (own.Person, own.Slot)), .. own is { Text: null, CapitalMm: null } ? ImmutableArray<OwnName>.Empty : [own]] };

    /// <summary>Equal when all names are.</summary>
    public bool Equals(JobNames? other) =>
        other is not null && Roster == other.Roster && Kept == other.Kept && FileRule == other.FileRule && Own.AsSpan().SequenceEqual(other.Own.AsSpan()) && Proofed.AsSpan().SequenceEqual(other.Proofed.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Roster, Kept, FileRule);
}
