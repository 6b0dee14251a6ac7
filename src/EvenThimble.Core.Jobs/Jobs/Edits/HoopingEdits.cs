using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>Chooses machine and hoop; what was divided among hoopings is one again.</summary>
public sealed record ChooseHoop(SewingMachineModel Machine, HoopField Field) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => Machine.Hoops.Contains(Field)
        ? job with { Hoopings = [new(new(Machine.Id, Field.Id))], Split = HoopSplit.Plain, Crosses = null }
        : throw new EditRefusedException($"{Machine.Name} has no such hoop.");

    /// <inheritdoc/>
    public override string Label(Job before) => $"Chose {Machine.Name}, {Field.Name}";
}

/// <summary>Sews the job in several hoopings.</summary>
/// <param name="Hoopings">The hoopings, in order.</param>
/// <param name="In">What they are, for the history.</param>
public sealed record DivideAmong(ImmutableArray<Hooping> Hoopings, string In) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => job with { Hoopings = Hoopings, Split = HoopSplit.Plain, Crosses = job.Crosses is null ? null : CrossWish.Proposed };

    /// <inheritdoc/>
    public override string Label(Job before) => $"Divided it among {Hoopings.Length.ToString("N0", CultureInfo.InvariantCulture)} hoopings: {In}";
}

/// <summary>Sews a divided job in one hooping again.</summary>
public sealed record Undivide : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => job.Hoopings.Length > 1
        ? job with { Hoopings = [new(job.Hoop)], Split = HoopSplit.Plain, Crosses = null }
        : throw new EditRefusedException("The job is not divided.");

    /// <inheritdoc/>
    public override string Label(Job before) => "Made one hooping of it again";
}

/// <summary>Draws the seam between two hoopings; without a line it is found by the program again.</summary>
/// <param name="First">The number of the earlier hooping, from 0.</param>
/// <param name="Second">The number of the later one.</param>
/// <param name="Line">Where, mm.</param>
public sealed record DrawSeam(int First, int Second, ImmutableArray<Point> Line) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (First < 0 || First >= Second || Second >= job.Hoopings.Length) throw new EditRefusedException("There is no such seam; the job was divided anew meanwhile.");
        if (Line.Length == 1 || (Line.Length > 1 && Line[0].DistanceTo(Line[^1]) < 1)) throw new EditRefusedException("A seam needs two places that are a millimetre apart at least.");
        var others = job.Split.Seams.Where(s => s.First != First || s.Second != Second);
        return job with { Split = job.Split with { Seams = Line.IsEmpty ? [.. others] : [.. others, new Seam(First, Second, Line)] } };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"{(Line.IsEmpty ? "Let the program find" : "Drew")} the seam of hoopings {First + 1} and {Second + 1}";
}

/// <summary>Gives parts to a hooping; null: the program finds theirs again.</summary>
public sealed record GiveToHooping(IReadOnlySet<PartId> Parts, int? Hooping) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job)
    {
        if (job.Hoopings.Length < 2) throw new EditRefusedException("The job is sewn in one hooping; there is no other to give it to.");
        if (Hooping is { } n && (n < 0 || n >= job.Hoopings.Length)) throw new EditRefusedException("There is no such hooping.");
        var others = job.Split.Given.Where(g => !Parts.Contains(g.Part) && job.Order.Find(g.Part) is not null);
        return job with { Split = job.Split with { Given = Hooping is { } to ? [.. others, .. Parts.OrderBy(p => p.Value).Select(p => new GivenPart(p, to))] : [.. others] } };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Hooping is { } to ? $"Gave {Named(before)} to hooping {to + 1}" : $"Let the program find the hooping of {Named(before)}";
}

/// <summary>Sews crosses that hoopings are aligned by; null: none.</summary>
public sealed record SetCrosses(CrossWish? Crosses) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => job.Hoopings.Length > 1 || Crosses is null
        ? job with { Crosses = Crosses }
        : throw new EditRefusedException("Crosses align one hooping with another; this job is sewn in one.");

    /// <inheritdoc/>
    public override string Label(Job before) => Crosses is not { } crosses ? "Left the crosses out" : crosses.Spots.IsEmpty ? "Crosses at the seam" : $"{crosses.Spots.Length.ToString(CultureInfo.InvariantCulture)} crosses by hand";
}

/// <summary>Notes how a hooping came to lie; it is shifted and turned to meet the one before.</summary>
public sealed record MeasureOffset(int Hooping, MeasuredOffset Measured) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Hooping < 0 || Hooping >= job.Hoopings.Length) throw new EditRefusedException("There is no such hooping.");
        if (!double.IsFinite(Measured.Dx + Measured.Dy + Measured.TurnDegrees)) throw new EditRefusedException("That is not a distance. Type millimetres, such as 0.6, and degrees.");
        return job with { Hoopings = job.Hoopings.SetItem(Hooping, job.Hoopings[Hooping] with { Measured = Measured }) };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Measured == MeasuredOffset.None ? $"Hooping {Hooping + 1} lies as it should" : $"Hooping {Hooping + 1} landed {Mm(Measured.Dx)}, {Mm(Measured.Dy)} mm off, turned by {Mm(Measured.TurnDegrees)}°";
}

/// <summary>Says what holds and marks the cloth.</summary>
public sealed record HoldCloth(ClothHolding Holding) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => job with { Holding = Holding };

    /// <inheritdoc/>
    public override string Label(Job before) =>
        before.Holding.Basting != Holding.Basting ? Holding.Basting switch { Basting.None => "Left the basting out", Basting.AroundTheJob => "Basted around the job", _ => "Basted along the field" }
        : before.Holding.CentreMark != Holding.CentreMark ? Holding.CentreMark ? "Marked the centre" : "Left the mark of the centre out"
        : "Chose where the needle rests";
}

/// <summary>Writes notes for the sewing sheet.</summary>
public sealed record WriteNotes(string Notes) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => JobRules.CleanNotes(Notes) is { Length: <= JobRules.LongestNotes } clean
        ? job with { Notes = clean }
        : throw new EditRefusedException($"Notes have up to {JobRules.LongestNotes:N0} characters; these have more.");

    /// <inheritdoc/>
    public override string Label(Job before) => "Wrote notes for the sheet";
}
