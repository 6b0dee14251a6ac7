using System.Collections.Immutable;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>Chooses the parts whose lines are cut.</summary>
public sealed record ChooseCutLines(ImmutableArray<PartId> Parts) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Parts.FirstOrDefault(p => job.Order.Find(p) is null) is { Value: > 0 }) throw new EditRefusedException("A selected part is no longer in this job. Choose again.");
        return job with { Cutting = job.Cutting with { Parts = [.. Parts.Distinct()], ByHand = [] } };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Parts.Length switch
    {
        0 => "Chose no cut lines",
        1 => $"Chose cut lines from {before.Order.Find(Parts[0])?.Name}",
        var n => $"Chose cut lines from {n} parts",
    };
}

/// <summary>Cuts around parts together, or around nothing.</summary>
public sealed record CutAround(ImmutableArray<PartId> Parts) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Parts.FirstOrDefault(p => job.Order.Find(p) is null) is { Value: > 0 }) throw new EditRefusedException("A selected part is no longer in this job. Choose again.");
        return job with { Cutting = job.Cutting with { Around = [.. Parts.Distinct()], ByHand = [] } };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Parts.IsEmpty ? "Cuts around nothing" : Parts.Length == before.Order.Count ? "Cuts around the whole design" : $"Cuts around {(Parts.Length == 1 ? before.Order.Find(Parts[0])?.Name : $"{Parts.Length} parts together")}";
}

/// <summary>Sets how far cut lines lie outside stitch lines.</summary>
/// <param name="AllowanceMm">Mm; null: by the cloth.</param>
public sealed record SetAllowance(double? AllowanceMm) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => AllowanceMm is { } mm && !(mm >= JobCutting.LeastAllowance && mm <= JobCutting.MostAllowance)
        ? throw new EditRefusedException($"The allowance can be from {JobCutting.LeastAllowance} to {JobCutting.MostAllowance} mm. Nothing was changed.")
        : job with { Cutting = job.Cutting with { AllowanceMm = AllowanceMm } };

    /// <inheritdoc/>
    public override string Label(Job before) => AllowanceMm is { } mm ? $"Set the allowance to {Mm(mm)} mm" : "Set the allowance by the cloth";
}

/// <summary>Corrects a line that is cut.</summary>
/// <param name="Change">What is set of it.</param>
/// <param name="Said">What was done, for the history.</param>
public sealed record ChangeCutLine(CutChange Change, string Said) : JobEdit
{
    private const int MostBridged = 40;

    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (Change.Bridged.Length > MostBridged) throw new EditRefusedException($"More than {MostBridged} stretches of one line cannot be left out. Choose another line.");
        return job with { Cutting = job.Cutting.With(Change with { Material = Titles.Clean(Change.Material) }) };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Said;
}

/// <summary>Sets how pieces are laid on the mat.</summary>
public sealed record LayOnMat(string? Cutter, double GapMm, int? Copies, bool? FaceDown, CutTurning Turning, bool TestSquare) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job)
    {
        if (!(GapMm >= JobCutting.LeastGap && GapMm <= JobCutting.MostGap)) throw new EditRefusedException($"The gap between pieces can be from {JobCutting.LeastGap} to {JobCutting.MostGap} mm. Nothing was changed.");
        if (Copies is < 1 or > JobCutting.MostCopies) throw new EditRefusedException($"Between 1 and {JobCutting.MostCopies} copies can be cut at once. Nothing was changed.");
        var cutting = job.Cutting with { Cutter = Cutter, GapMm = GapMm, Copies = Copies, FaceDown = FaceDown, Turning = Turning, TestSquare = TestSquare };
        return job with { Cutting = cutting.Cutter == job.Cutting.Cutter && cutting.FaceDown == job.Cutting.FaceDown ? cutting : cutting with { ByHand = [] } };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => "Changed how pieces lie on the mat";
}

/// <summary>Lays a piece by hand.</summary>
public sealed record LayPiece(LaidByHand Laid) : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => !double.IsFinite(Laid.X) || !double.IsFinite(Laid.Y) || Math.Abs(Laid.X) > ShiftParts.FarthestMm || Math.Abs(Laid.Y) > ShiftParts.FarthestMm
        ? throw new EditRefusedException("That is no place on the mat.")
        : job with { Cutting = job.Cutting with { ByHand = [.. job.Cutting.ByHand.Where(l => (l.Piece, l.Copy) != (Laid.Piece, Laid.Copy)), Laid] } };

    /// <inheritdoc/>
    public override string Label(Job before) => "Moved a piece on the mat";
}

/// <summary>Lays all pieces anew.</summary>
public sealed record LayAnew : JobEdit
{
    /// <inheritdoc/>
    public override Job Apply(Job job) => job with { Cutting = job.Cutting with { ByHand = [] } };

    /// <inheritdoc/>
    public override string Label(Job before) => "Laid all pieces on the mat anew";
}
