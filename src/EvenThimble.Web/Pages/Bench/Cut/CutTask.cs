using EvenThimble.Core.Cutting;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Cloth that is laid and cut: what parts are for, appliqués of shapes, which lines are cut and how far outside the stitches.</summary>
public sealed class CutTask : BenchTask
{
    private sealed record AppliqueForm(TackDownWay TackDown, string? Cover, bool CutBefore);

    private sealed record StopForm(string? Message);

    private sealed record PartForm(int Part, bool Cut);

    private sealed record AllowanceForm(string? Allowance);

    private sealed record LineForm(int Part, int Line, bool? Dropped, bool? Joined, bool? OwnPiece, string? Material);

    private sealed record BridgeForm(int Part, int Line, string? Places);

    public override string Id => "cut";

    public override string Name => "Cut";

    public override string Icon => "bi-scissors";

    public override char? Key => '7';

    public override string Says => "Appliqué: what is laid, held, covered and cut";

    public override object CardFor(BenchView bench) => CutCard.Of(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of("suggested-roles", "Give parts the roles that they seem to have", bench => CutCard.Of(bench).Suggested is { IsEmpty: false } suggested
            ? RoleReading.Edit(bench.Job, bench.Open.Plan, suggested, bench.Get<JobDesk>().Stitches)
            : throw new EditRefusedException("No part seems to lay, hold or cover cloth. Give roles by hand.")),
        Command.Of<AppliqueForm>("applique", "Make an appliqué", (bench, form) => new MakeApplique(bench.ChosenIds(), new(form.TackDown, bench.Typed(form.Cover), form.CutBefore))) with { Selects = SelectedAfter.WhatCameIn, Previews = true },
        Command.Of<StopForm>("stop-after", "Stop after a part", (bench, form) => new StopAfterParts(bench.ChosenIds(), string.IsNullOrWhiteSpace(form.Message) ? null : form.Message)) with { KeepsTyped = true },
        Command.Of<PartForm>("cut-part", "Cut the lines of a part", (bench, form) => new ChooseCutLines([.. bench.Job.Cutting.Parts.Where(p => p.Value != form.Part), .. form.Cut ? [new PartId(form.Part)] : Array.Empty<PartId>()])),
        Command.Of("cut-lines", "Cut the lines of what is selected", bench => bench.Selected.Count == 0
            ? throw new EditRefusedException("Select the parts whose lines are cut, on the cloth or on the sewing line.")
            : new ChooseCutLines([.. bench.Job.Cutting.Parts.Concat(bench.Selected.Select(p => p.Id)).Distinct()])),
        Command.Of("cut-around", "Cut around what is selected", bench => new CutAround([.. bench.SelectedOrAll.Select(p => p.Id)])),
        Command.Of("cut-around-nothing", "Cut around nothing", _ => new CutAround([])),
        Command.Of<AllowanceForm>("allowance", "Set the allowance", (bench, form) => new SetAllowance(string.IsNullOrWhiteSpace(form.Allowance) ? null : bench.Typed(form.Allowance))) with { KeepsTyped = true },
        Command.Of<LineForm>("cut-line", "Correct a cut line", Corrected),
        Command.Of<BridgeForm>("bridge", "Leave a stretch of a cut line out", Bridged),
        Command.Of<LineForm>("unbridge", "Take a cut line as it was sewn", (bench, form) => new ChangeCutLine(LineOf(bench, form.Part, form.Line).Change with { Bridged = [] }, "Took a cut line as it was sewn")),
    ];

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Parts { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        ["cut-lines"] = (bench, _) => Task.FromResult<IActionResult>(new JsonResult(OnCloth(bench.Get<CutDesk>().Of(bench.Open)))),
    };

    private static CutLine LineOf(BenchView bench, int part, int line) =>
        bench.Get<CutDesk>().Of(bench.Open).Lines.All.FirstOrDefault(l => l.Key == new CutKey(new(part), line)) ?? throw new EditRefusedException("That line is no longer among those that are cut. Look again.");

    private static ChangeCutLine Corrected(BenchView bench, LineForm form)
    {
        var line = LineOf(bench, form.Part, form.Line);
        var change = line.Change with
        {
            Dropped = form.Dropped ?? line.Change.Dropped,
            Joined = form.Joined ?? line.Change.Joined,
            OwnPiece = form.OwnPiece ?? line.Change.OwnPiece,
            Material = form.Material ?? line.Change.Material,
        };
        var said = change.Dropped != line.Change.Dropped ? change.Dropped ? $"Does not cut {line.Name}" : $"Cuts {line.Name}"
            : change.Joined != line.Change.Joined ? change.Joined ? $"Joined the ends of {line.Name}" : $"Left {line.Name} open"
            : change.OwnPiece != line.Change.OwnPiece ? change.OwnPiece ? $"Cuts {line.Name} as a piece by itself" : $"Cuts {line.Name} as a window"
            : $"Cuts {line.Name} from {(change.Material.Length > 0 ? change.Material : CutPieces.UsualMaterial)}";
        return new(change, said);
    }

    /// <summary>The shorter way along a line between two places is left out.</summary>
    private static ChangeCutLine Bridged(BenchView bench, BridgeForm form)
    {
        var line = LineOf(bench, form.Part, form.Line);
        var places = PlacesOf.Spots(form.Places);
        if (places.Count != 2) throw new EditRefusedException("Click where the wrong stretch begins, and where it ends.");
        var path = new MeasuredLine([.. line.Line.AsPath]);
        var (a, b) = (path.Nearest(places[0]) / path.Length, path.Nearest(places[1]) / path.Length);
        if (a > b) (a, b) = (b, a);
        if ((b - a) * path.Length < 0.5) throw new EditRefusedException("Both places lie on one spot of the line. Click farther apart.");
        var stretch = !line.Line.Closed || b - a <= 0.5 ? new BridgedStretch(a, b) : new BridgedStretch(b, a);
        return new(line.Change with { Bridged = line.Change.Bridged.Add(stretch) }, $"Left a stretch of {line.Name} out");
    }

    /// <summary>What is drawn on the cloth: stitch lines, what was left out, and the edges of the pieces.</summary>
    private static object OnCloth(CutJob cut)
    {
        static double[] Flat(IEnumerable<Point> points) => [.. points.SelectMany(p => new[] { Math.Round(p.X, 2), Math.Round(p.Y, 2) })];
        return new
        {
            allowance = cut.AllowanceMm,
            lines = cut.Lines.All.Select(l => new { part = l.Key.Part.Value, line = l.Key.Line, cut = l.IsCut, dropped = l.Change.Dropped, closed = l.Line.Closed, points = Flat(l.Line.AsPath) }),
            left = cut.Lines.Left.Where(l => l.Left.Why != Core.Outlining.LeftOutAs.Again).Select(l => new { travel = l.Left.Why == Core.Outlining.LeftOutAs.Travel, points = Flat(l.Left.Points) }),
            pieces = cut.Pieces.All.Select(p => new { name = p.Name, rings = p.Rings.Select(r => Flat(r.Append(r[0]))) }),
        };
    }
}
