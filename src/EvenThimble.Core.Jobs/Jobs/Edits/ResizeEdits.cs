using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>Makes parts larger or smaller about a place of the job. Sizes are kept as numbers beside the original, so that nothing is lost by changing them often.</summary>
/// <param name="Parts">Which.</param>
/// <param name="Across">Times as wide.</param>
/// <param name="Down">Times as high.</param>
/// <param name="About">What stays where it is.</param>
public sealed record ResizeParts(IReadOnlySet<PartId> Parts, double Across, double Down, Point About) : PlacingEdit(Parts)
{
    private const double Least = 0.02;
    private const double Most = 50;

    /// <inheritdoc/>
    protected override Placement Place(PartId part, Placement placement) => placement.Scaled(Across, Down, About);

    /// <inheritdoc/>
    protected override void Check(Job job)
    {
        if (!(Across > 0 && Down > 0 && double.IsFinite(Across) && double.IsFinite(Down))) throw new EditRefusedException("That is not a size. Type a length such as 90, 3in or 80%.");
    }

    /// <inheritdoc/>
    protected override void Check(Part moved)
    {
        var placed = moved.Placement;
        if (placed.Size is not { Across: >= Least and <= Most, Down: >= Least and <= Most })
            throw new EditRefusedException($"“{moved.Name}” can become from {Least * 100:0} % to {Most * 100:0} % of its own size. Nothing was changed.");
        if (Math.Abs(placed.X) > ShiftParts.FarthestMm || Math.Abs(placed.Y) > ShiftParts.FarthestMm)
            throw new EditRefusedException($"That would lie more than {ShiftParts.FarthestMm / 1000:0} m from the centre. Nothing was changed.");
        if (moved.Drawn is { } drawn) ShapeRules.Check(drawn.Shape.Moved(placed.Size.Apply));
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Math.Abs(Across - Down) < 1e-6
        ? $"Made {Named(before)} {Mm(Across * 100)} % of its size"
        : $"Made {Named(before)} {Mm(Across * 100)} % as wide, {Mm(Down * 100)} % as high";
}

/// <summary>Chooses what becomes of bought stitches at another size.</summary>
public sealed record ChooseResizeMode(IReadOnlySet<PartId> Parts, ResizeMode Mode) : BoughtPartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override StitchSlice Change(StitchSlice slice) => slice with { Rework = slice.Rework with { Mode = Mode } };

    /// <inheritdoc/>
    public override string Label(Job before) => $"{(Mode == ResizeMode.Respace ? "Re-spaced" : "Stretched")} {Named(before)}";
}

/// <summary>An edit of chosen parts that came as stitches; drawn ones among them are refused.</summary>
public abstract record BoughtPartsEdit(IReadOnlySet<PartId> Parts) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected sealed override Job Change(Job job)
    {
        if (job.Order.FirstOrDefault(p => Parts.Contains(p.Id) && p.Drawn is not null) is { } drawn)
            throw new EditRefusedException($"“{drawn.Name}” was drawn here; its stitches are set with its own spacing and underlay.");
        return job.With(Parts, p => p.WithSlices([.. p.Slices.Select(Change)]));
    }

    /// <summary>A slice after the edit.</summary>
    protected abstract StitchSlice Change(StitchSlice slice);
}

/// <summary>Makes bought stitches lighter (above 1) or heavier (below 1); null: as they came.</summary>
public sealed record ChangeSpacing(IReadOnlySet<PartId> Parts, double? Times) : BoughtPartsEdit(Parts)
{
    /// <summary>Heaviest, times as far between rows.</summary>
    public const double Least = 0.5;

    /// <summary>Lightest, times as far between rows.</summary>
    public const double Most = 3;

    /// <inheritdoc/>
    protected override StitchSlice Change(StitchSlice slice)
    {
        if (Times is { } times && !(times is >= Least and <= Most)) throw new EditRefusedException($"The spacing can become from {Least * 100:0} to {Most * 100:0} % of what it was. Nothing was changed.");
        return slice with { Rework = slice.Rework with { SpacingTimes = Times is null or 1 ? null : Times, Mode = Times is null or 1 ? slice.Rework.Mode : ResizeMode.Respace } };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Times is { } times && times != 1 ? $"Made {Named(before)} {(times > 1 ? "lighter" : "heavier")}: spacing {Mm(times * 100)} %" : $"Set the spacing of {Named(before)} back";
}

/// <summary>Leaves the underlay of bought stitches out, or puts it back.</summary>
public sealed record LeaveOutUnderlay(IReadOnlySet<PartId> Parts, bool Out) : BoughtPartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override StitchSlice Change(StitchSlice slice) => slice with { Rework = slice.Rework with { WithoutUnderlay = Out } };

    /// <inheritdoc/>
    public override string Label(Job before) => $"{(Out ? "Left out" : "Put back")} the underlay of {Named(before)}";
}

/// <summary>Leaves bought stitches out that are shorter than a length (mm), or puts them back (0).</summary>
public sealed record LeaveOutShort(IReadOnlySet<PartId> Parts, double ShorterThanMm) : BoughtPartsEdit(Parts)
{
    /// <summary>Longer stitches than this are never left out, mm.</summary>
    public const double Most = 2;

    /// <inheritdoc/>
    protected override StitchSlice Change(StitchSlice slice) => ShorterThanMm is >= 0 and <= Most
        ? slice with { Rework = slice.Rework with { ShorterThanMm = ShorterThanMm } }
        : throw new EditRefusedException($"Stitches shorter than 0 to {Most:0} mm can be left out. Nothing was changed.");

    /// <inheritdoc/>
    public override string Label(Job before) => ShorterThanMm > 0 ? $"Left out stitches under {Mm(ShorterThanMm)} mm of {Named(before)}" : $"Put the short stitches of {Named(before)} back";
}

/// <summary>Tells what some stitches of a part are, where they were read as something else; null: as they were read.</summary>
/// <param name="Part">Whose.</param>
/// <param name="Slice">Number of the slice among the part's.</param>
/// <param name="First">The first record, counted in the slice's blob.</param>
/// <param name="Last">The last one.</param>
/// <param name="As">What they are.</param>
public sealed record TellReading(PartId Part, int Slice, int First, int Last, ReadAs? As) : PartsEdit(new HashSet<PartId> { Part })
{
    /// <inheritdoc/>
    protected override Job Change(Job job)
    {
        var part = job.Order.Find(Part)!;
        if (part.Drawn is not null || Slice < 0 || Slice >= part.Slices.Length || First < part.Slices[Slice].First || Last >= part.Slices[Slice].End)
            throw new EditRefusedException("Those stitches are no longer there. Choose again.");
        var slice = part.Slices[Slice];
        var told = (slice.Rework.Told ?? ToldReadings.None).With(First, Last, As);
        return job.With(Parts, p => p.WithSlices(p.Slices.SetItem(Slice, slice with { Rework = slice.Rework with { Told = told.All.Count == 0 ? null : told } })));
    }

    /// <inheritdoc/>
    public override string Label(Job before) => As switch
    {
        ReadAs.Satin => $"Takes stitches of {Named(before)} as satin",
        ReadAs.Fill => $"Takes stitches of {Named(before)} as a fill",
        ReadAs.Line => $"Takes stitches of {Named(before)} as a line",
        ReadAs.AsItIs => $"Leaves stitches of {Named(before)} as they are",
        _ => $"Takes stitches of {Named(before)} as they were read",
    };
}

/// <summary>Leaves out of what is sewn whatever later parts hide, or sews everything.</summary>
public sealed record SewOnlySeen(bool Only) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => job with { SewsOnlySeen = Only };

    /// <inheritdoc/>
    public override string Label(Job before) => Only ? "Left covered stitches out" : "Sews covered stitches too";
}

/// <summary>Sews parts whole even where later parts hide them, or no longer.</summary>
public sealed record KeepWhole(IReadOnlySet<PartId> Parts, bool Whole) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job) => job.With(Parts, p => p with { KeptWhole = Whole });

    /// <inheritdoc/>
    public override string Label(Job before) => $"{(Whole ? "Keeps" : "No longer keeps")} {Named(before)} whole where it is covered";
}
