using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;

namespace EvenThimble.Core.Cutting;

/// <summary>All that a job's cutting comes to: lines, pieces, sheets and advice, each made when it is asked for.</summary>
/// <param name="job">The job.</param>
/// <param name="plan">Its plan, with what later parts hide.</param>
/// <param name="lines">Where its lines come from; null: they are found when they are asked for.</param>
public sealed class CutJob(Job job, SewingPlan plan, Func<CutLines>? lines = null)
{
    private CutLines? _lines;
    private CutPieces? _pieces;

    /// <summary>How many records the plan has whose lines are cut: what this one holds in memory.</summary>
    public int Records => plan.Records.Count;

    /// <summary>What of the job is cut.</summary>
    public JobCutting Wish => job.Cutting;

    /// <summary>How far cut lines lie outside stitch lines, mm.</summary>
    public double AllowanceMm => Wish.AllowanceMm ?? job.Cloth.Profile.CutAllowanceMm;

    /// <summary>How many of each piece are cut.</summary>
    public int Copies => Math.Min(Wish.Copies ?? job.Copies, JobCutting.MostCopies);

    /// <summary>Whether the cloth lies face down and is cut mirrored.</summary>
    public bool FaceDown => Wish.FaceDown ?? CutAdvice.UsuallyFaceDown(job.Cloth.Profile);

    /// <summary>The lines.</summary>
    public CutLines Lines => _lines ??= lines?.Invoke() ?? CutLines.Of(job, plan);

    /// <summary>The pieces.</summary>
    public CutPieces Pieces => _pieces ??= CutPieces.Of(Lines, AllowanceMm);

    /// <summary>What is found of lines and pieces, the serious first.</summary>
    public IReadOnlyList<CutFinding> Findings =>
    [
        .. Pieces.Findings.Concat(Pieces.Overlapping(Lines).Select(o => new CutFinding(o.Other.Key, $"“{o.One.Name}” and “{o.Other.Name}” lie {Text.LengthText.Decimals(o.ApartMm, 1)} mm apart, so their pieces lie over each other when they are laid.", "Take a smaller allowance, or cut one without the other.", false)))
            .OrderByDescending(f => f.Serious),
    ];

    /// <summary>The pieces laid on a mat, mm.</summary>
    public CutLayout LaidOn(double width, double height) => CutLayout.Lay(Pieces.All, Copies, width, height, Wish.GapMm, FaceDown, Wish.Turning, Wish.TestSquare, Wish.ByHand);

    /// <summary>The advice for a cutter; null: scissors.</summary>
    public CutAdvice AdviceFor(CutterModel? cutter) => new(job.Cloth.Profile, cutter, FaceDown, AllowanceMm);
}
