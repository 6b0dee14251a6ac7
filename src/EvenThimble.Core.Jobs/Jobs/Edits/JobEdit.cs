using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>One change of a job: a pure function, with a label for the history.</summary>
public abstract record JobEdit
{
    /// <summary>The job after the edit.</summary>
    /// <exception cref="EditRefusedException">It cannot be done; the message says why.</exception>
    public abstract Job Apply(Job job);

    /// <summary>What it did, in the past tense, from the job before it.</summary>
    public abstract string Label(Job before);

    /// <summary>Millimetres as the history writes them.</summary>
    protected static string Mm(double v) => LengthText.Decimals(v, 2);
}

/// <summary>Several edits as one step of the history.</summary>
public sealed record EditsTogether(string Said, ImmutableArray<JobEdit> Edits) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => Edits.Aggregate(job, (j, edit) => edit.Apply(j));

    /// <inheritdoc/>
    public override string Label(Job before) => Said;
}

/// <summary>An edit of chosen parts.</summary>
public abstract record PartsEdit(IReadOnlySet<PartId> Parts) : JobEdit
{
    /// <inheritdoc/>
    public sealed override Job Apply(Job job)
    {
        if (Parts.Count == 0) throw new EditRefusedException("Nothing is selected. Choose a part on the cloth or on the sewing line first.");
        if (Parts.FirstOrDefault(id => job.Order.Find(id) is null) is { Value: > 0 })
            throw new EditRefusedException("A selected part is no longer in this job. Choose again.");
        return Change(job);
    }

    /// <summary>The job after the edit; every chosen part is known to be in it.</summary>
    protected abstract Job Change(Job job);

    /// <summary>The chosen parts as words: the name of one, or how many.</summary>
    protected string Named(Job job)
    {
        var chosen = job.Order.Where(p => Parts.Contains(p.Id)).ToList();
        return chosen.Count == 1 ? chosen[0].Name : chosen.Count == job.Order.Count ? "everything" : $"{chosen.Count} parts";
    }
}

/// <summary>An edit that changes where chosen parts lie. A piece all of whose parts are chosen goes along as a whole.</summary>
public abstract record PlacingEdit(IReadOnlySet<PartId> Parts) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected sealed override Job Change(Job job)
    {
        Check(job);
        var moved = job.With(Parts, p =>
        {
            var placed = p with { Placement = Place(p.Id, p.Placement) };
            Check(placed);
            return placed;
        });
        var whole = job.Order.GroupBy(p => p.Piece).Where(g => g.All(p => Parts.Contains(p.Id))).ToDictionary(g => g.Key, g => g.First().Id);
        return whole.Count == 0 ? moved : moved with { Pieces = [.. job.Pieces.Select(p => whole.TryGetValue(p.Id, out var first) ? p with { Placement = Place(first, p.Placement) } : p)] };
    }

    /// <summary>Where something that lies here lies afterwards, as a part does or the piece that it belongs to.</summary>
    protected abstract Placement Place(PartId part, Placement placement);

    /// <summary>Refuses what cannot be done to any job, before anything is moved.</summary>
    /// <exception cref="EditRefusedException">With the reason.</exception>
    protected virtual void Check(Job job)
    {
    }

    /// <summary>Refuses what must not come of it.</summary>
    /// <exception cref="EditRefusedException">With the reason.</exception>
    protected virtual void Check(Part moved)
    {
    }
}

/// <summary>Moves parts by millimetres.</summary>
public sealed record ShiftParts(IReadOnlySet<PartId> Parts, double Dx, double Dy) : PlacingEdit(Parts)
{
    /// <summary>No job is larger than this, mm from the centre: far more than any machine reaches, and well inside the files.</summary>
    public const double FarthestMm = 2_000;

    /// <inheritdoc/>
    protected override Placement Place(PartId part, Placement placement) => placement.Shifted(Dx, Dy);

    /// <inheritdoc/>
    protected override void Check(Job job)
    {
        if (!double.IsFinite(Dx) || !double.IsFinite(Dy)) throw new EditRefusedException("That is not a distance. Type millimetres, such as 12.5.");
    }

    /// <inheritdoc/>
    protected override void Check(Part moved)
    {
        if (Math.Abs(moved.Placement.X) > FarthestMm || Math.Abs(moved.Placement.Y) > FarthestMm)
            throw new EditRefusedException($"That is more than {FarthestMm / 1000:0} m from the centre. Nothing was moved.");
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Moved {Named(before)} by {Mm(Dx)}, {Mm(Dy)} mm";
}

/// <summary>Turns parts clockwise by degrees about a place of the job.</summary>
public sealed record TurnParts(IReadOnlySet<PartId> Parts, double Degrees, Point About) : PlacingEdit(Parts)
{
    /// <inheritdoc/>
    protected override Placement Place(PartId part, Placement placement) => placement.Turned(Degrees, About);

    /// <inheritdoc/>
    protected override void Check(Job job)
    {
        if (!double.IsFinite(Degrees)) throw new EditRefusedException("That is not an angle. Type degrees, such as 15.");
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Turned {Named(before)} by {Mm(Degrees)}°";
}

/// <summary>Moves parts so that the middle of what they cover lies on the centre.</summary>
public sealed record CentreParts(IReadOnlySet<PartId> Parts, Point Middle) : PlacingEdit(Parts)
{
    /// <inheritdoc/>
    protected override Placement Place(PartId part, Placement placement) => placement.Shifted(-Middle.X, -Middle.Y);

    /// <inheritdoc/>
    public override string Label(Job before) => $"Centred {Named(before)}";
}

/// <summary>Puts parts at a place of the sewing order, keeping their order among themselves.</summary>
public sealed record PlaceInOrder(IReadOnlySet<PartId> Parts, int Index) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job) => job with { Order = job.Order.Moved(Parts, Math.Clamp(Index, 0, job.Order.Count)) };

    /// <inheritdoc/>
    public override string Label(Job before)
    {
        var next = before.Order.Skip(Index).FirstOrDefault(p => !Parts.Contains(p.Id));
        return next is null ? $"Put {Named(before)} last" : $"Put {Named(before)} before {next.Name}";
    }
}

/// <summary>Moves parts one step earlier or later in the sewing order.</summary>
public sealed record StepInOrder(IReadOnlySet<PartId> Parts, bool Earlier) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job) => job with { Order = Earlier ? job.Order.Earlier(Parts) : job.Order.Later(Parts) };

    /// <inheritdoc/>
    public override string Label(Job before) => $"Moved {Named(before)} {(Earlier ? "earlier" : "later")}";
}

/// <summary>Hides parts on the screen or shows them again.</summary>
public sealed record HideParts(IReadOnlySet<PartId> Parts, bool Hidden) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job) => job.With(Parts, p => p with { Hidden = Hidden });

    /// <inheritdoc/>
    public override string Label(Job before) => $"{(Hidden ? "Hid" : "Showed")} {Named(before)}";
}

/// <summary>Locks parts, so that a click reaches what lies below, or unlocks them.</summary>
public sealed record LockParts(IReadOnlySet<PartId> Parts, bool Locked) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job) => job.With(Parts, p => p with { Locked = Locked });

    /// <inheritdoc/>
    public override string Label(Job before) => $"{(Locked ? "Locked" : "Unlocked")} {Named(before)}";
}

/// <summary>Gives parts a name, as the sewing line shows it.</summary>
public sealed record NameParts(IReadOnlySet<PartId> Parts, string Name) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job)
    {
        var name = Titles.Clean(Name);
        if (name.Length == 0) throw new EditRefusedException("A part needs a name of at least one letter.");
        return job.With(Parts, p => p with { Name = name });
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Named {Named(before)} “{Titles.Clean(Name)}”";
}

/// <summary>Says what parts are for.</summary>
public sealed record GiveRole(IReadOnlySet<PartId> Parts, PartRole Role) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job) => job.With(Parts, p => p with { Role = Role });

    /// <inheritdoc/>
    public override string Label(Job before) => $"Made {Named(before)} the {Role.InWords()}";
}

/// <summary>Chooses the fabric and its colour.</summary>
public sealed record ChooseCloth(Cloth Cloth) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) =>
        job with { Cloth = Cloth };

    /// <inheritdoc/>
    public override string Label(Job before) => $"Laid it on {Cloth.Profile.Name}";
}

/// <summary>Gives the job another title.</summary>
public sealed record RenameJob(string Title) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        var title = Titles.Clean(Title);
        return title.Length == 0 ? throw new EditRefusedException("A job needs a title of at least one letter.") : job with { Title = title };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Named the job “{Titles.Clean(Title)}”";
}

/// <summary>Sets the name for machines that show only a few plain letters.</summary>
public sealed record SetShortTitle(string ShortTitle) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        var plain = Titles.Clean(ShortTitle);
        if (plain.Length is 0 or > Titles.ShortLength || !Titles.IsPlain(plain))
            throw new EditRefusedException($"A short name has 1 to {Titles.ShortLength} plain letters, digits, spaces or - and _.");
        return job with { ShortTitle = plain };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Set the short name “{Titles.Clean(ShortTitle)}”";
}
