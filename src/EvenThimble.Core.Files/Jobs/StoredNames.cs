using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Names;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>The rules of a name slot. What is not said is as <see cref="NameSlot"/> has it; the name that it shows stands beside.</summary>
internal sealed record StoredSlot(
    string Pattern, double Width, double Height, string Font, double? LeastCondense = null, string? Way = null, string? Align = null, double? LineSpacing = null, double? Arc = null, double[]? Path = null, List<string>? OtherFonts = null, double? MostCapital = null, int Fit = 0)
{
    private static readonly NameSlot Usual = new("-", 1, 1, "-");

    public static StoredSlot Of(NameSlotContent content)
    {
        var slot = content.Slot;
        return new(
            slot.Pattern, slot.WidthMm, slot.HeightMm, slot.Font, slot.LeastCondense == Usual.LeastCondense ? null : slot.LeastCondense, slot.Way == Usual.Way ? null : StorageKeys.Of(slot.Way),
            slot.Align == Usual.Align ? null : slot.Align.ToString(), slot.LineSpacing == Usual.LineSpacing ? null : slot.LineSpacing, (slot.Course as LetterCourse.OnArc)?.Degrees,
            (slot.Course as LetterCourse.OnPath)?.Path.SelectMany(p => new[] { p.X, p.Y }).ToArray(), slot.OtherFonts.IsEmpty ? null : [.. slot.OtherFonts], slot.MostCapitalMm, (int)content.Fit);
    }

    public NameSlotContent ToContent(StoredLettering shown, ImmutableArray<DrawingShape> letters) => new(ToSlot(), shown.ToWish(), shown.Font, letters) { Fit = (SlotFit)Fit };

    private NameSlot ToSlot() => new(Pattern, Width, Height, Font)
    {
        LeastCondense = LeastCondense ?? Usual.LeastCondense,
        Way = Way is null ? Usual.Way : StorageKeys.Way(Way),
        Align = Align is null ? Usual.Align : Enum.Parse<LetterAlign>(Align),
        LineSpacing = LineSpacing ?? Usual.LineSpacing,
        Course = Arc is { } degrees ? new LetterCourse.OnArc(degrees)
            : Path is { } path ? path.Length % 2 == 0 ? new LetterCourse.OnPath([.. path.Chunk(2).Select(p => new Point(p[0], p[1]))]) : throw new InvalidDataException("The stored job has a name slot on a path that is none.")
            : LetterCourse.Straight,
        OtherFonts = [.. OtherFonts ?? []],
        MostCapitalMm = MostCapital,
    };
}

/// <summary>A person of a roster.</summary>
internal sealed record StoredPerson(int Id, List<string> Values, int? Quantity = null, string? Garment = null);

/// <summary>A roster.</summary>
internal sealed record StoredRoster(string Name, List<string> Fields, List<StoredPerson> People, int NextPerson)
{
    public static StoredRoster Of(Roster roster) => new(
        roster.Name, [.. roster.Fields],
        [.. roster.People.Select(p => new StoredPerson(p.Id.Value, [.. p.Values], p.Quantity == 1 ? null : p.Quantity, p.Garment.Length == 0 ? null : p.Garment))], roster.NextPerson);

    public Roster ToRoster() => new(Titles.Clean(Name), [.. Fields], [.. People.Select(p => new Person(new(p.Id), [.. p.Values]) { Quantity = p.Quantity ?? 1, Garment = p.Garment ?? string.Empty })]) { NextPerson = NextPerson };
}

/// <summary>What is otherwise for a person, or what a proof has shown of one.</summary>
internal sealed record StoredOwnName(int Person, int Slot, string? Text = null, double? Capital = null);

/// <summary>The names that a job is sewn with.</summary>
internal sealed record StoredNames(StoredRoster Roster, long? Kept = null, List<StoredOwnName>? Own = null, List<StoredOwnName>? Proofed = null, string? Files = null)
{
    public static StoredNames? Of(JobNames? names) => names is null ? null : new(
        StoredRoster.Of(names.Roster), names.Kept,
        names.Own.IsEmpty ? null : [.. names.Own.Select(o => new StoredOwnName(o.Person.Value, o.Slot.Value, o.Text, o.CapitalMm))],
        names.Proofed.IsEmpty ? null : [.. names.Proofed.Select(p => new StoredOwnName(p.Person.Value, p.Slot.Value, p.Text))], names.FileRule == JobNames.UsualFileRule ? null : names.FileRule);

    public JobNames ToNames() => new(Roster.ToRoster(), Kept)
    {
        Own = [.. (Own ?? []).Select(o => new OwnName(new(o.Person), new(o.Slot), o.Text, o.Capital))],
        Proofed = [.. (Proofed ?? []).Select(p => new ProofedName(new(p.Person), new(p.Slot), p.Text ?? string.Empty))],
        FileRule = Titles.Clean(Files ?? JobNames.UsualFileRule),
    };
}
