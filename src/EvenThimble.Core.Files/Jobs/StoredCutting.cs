using EvenThimble.Core.Jobs;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>What is set of a line that is cut.</summary>
internal sealed record StoredCutChange(int Part, int Line, bool Dropped = false, bool Joined = false, bool OwnPiece = false, string? Material = null, double[]? Bridged = null)
{
    public static StoredCutChange Of(CutChange change) => new(
        change.Line.Part.Value, change.Line.Line, change.Dropped, change.Joined, change.OwnPiece, change.Material.Length == 0 ? null : change.Material, change.Bridged.IsEmpty ? null : [.. change.Bridged.SelectMany(b => new[] { b.From, b.To })]);

    public CutChange ToChange() => new(new CutKey(new(Part), Line))
    {
        Dropped = Dropped,
        Joined = Joined,
        OwnPiece = OwnPiece,
        Material = Titles.Clean(Material),
        Bridged = Bridged is { Length: var n } && n % 2 == 1 ? throw new InvalidDataException("The stored job leaves out a stretch of a cut line that has no end.") : [.. (Bridged ?? []).Chunk(2).Select(b => new BridgedStretch(b[0], b[1]))],
    };
}

/// <summary>A piece laid by hand.</summary>
internal sealed record StoredLaid(int Part, int Line, int Copy, int Sheet, double X, double Y, double Turn);

/// <summary>What of a job is cut. What is not said is as <see cref="JobCutting.None"/> has it.</summary>
internal sealed record StoredCutting(
    List<int>? Parts = null, List<int>? Around = null, double? Allowance = null, List<StoredCutChange>? Changes = null, string? Cutter = null, double? Gap = null, int? Copies = null, bool? FaceDown = null, string? Turning = null, bool TestSquare = false, List<StoredLaid>? ByHand = null)
{
    public static StoredCutting? Of(JobCutting cutting) => cutting == JobCutting.None ? null : new(
        cutting.Parts.IsEmpty ? null : [.. cutting.Parts.Select(p => p.Value)], cutting.Around.IsEmpty ? null : [.. cutting.Around.Select(p => p.Value)], cutting.AllowanceMm,
        cutting.Changes.IsEmpty ? null : [.. cutting.Changes.Select(StoredCutChange.Of)], cutting.Cutter, cutting.GapMm == JobCutting.UsualGap ? null : cutting.GapMm, cutting.Copies, cutting.FaceDown,
        cutting.Turning == JobCutting.None.Turning ? null : cutting.Turning.ToString(), cutting.TestSquare,
        cutting.ByHand.IsEmpty ? null : [.. cutting.ByHand.Select(l => new StoredLaid(l.Piece.Part.Value, l.Piece.Line, l.Copy, l.Sheet, l.X, l.Y, l.TurnDegrees))]);

    public JobCutting ToCutting() => new()
    {
        Parts = [.. (Parts ?? []).Select(p => new PartId(p))],
        Around = [.. (Around ?? []).Select(p => new PartId(p))],
        AllowanceMm = Allowance,
        Changes = [.. (Changes ?? []).Select(c => c.ToChange())],
        Cutter = Cutter,
        GapMm = Gap ?? JobCutting.UsualGap,
        Copies = Copies,
        FaceDown = FaceDown,
        Turning = Turning is null ? JobCutting.None.Turning : Enum.Parse<CutTurning>(Turning),
        TestSquare = TestSquare,
        ByHand = [.. (ByHand ?? []).Select(l => new LaidByHand(new(new(l.Part), l.Line), l.Copy, l.Sheet, l.X, l.Y, l.Turn))],
    };
}
