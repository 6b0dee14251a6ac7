using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Storage;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages;

/// <summary>The edits of the bench, one handler each.</summary>
public sealed partial class BenchModel
{
    public IActionResult OnPostRecolour(string maker, string number) => Edit(() =>
        new Recolour(ChosenIds(), threads.Find(maker ?? string.Empty, number ?? string.Empty) ?? throw new EditRefusedException("That thread is in none of the charts.")));

    /// <summary>Moves the selection, or everything, by millimetres.</summary>
    public IActionResult OnPostShift(double dx, double dy) => Edit(() => new ShiftParts(ChosenOrAll(), dx, dy));

    /// <summary>Moves the middle of the selection, or of everything, to a place as typed.</summary>
    public IActionResult OnPostMoveTo(string? x, string? y) => Edit(() =>
    {
        if (!LengthText.TryParse(x, Look.Unit, out var toX) || !LengthText.TryParse(y, Look.Unit, out var toY))
            throw new EditRefusedException("That is not a length. Type a number, such as 12.5, 3cm or 1/2in.");
        var middle = SelectedBounds.Middle;

        // The fields show a rounded place: what was not changed there must not move.
        double Step(string? typed, double shown, double to) => typed == LengthText.Number(shown, Look.Unit) ? 0 : to - shown;
        return new ShiftParts(ChosenOrAll(), Step(x, middle.X, toX), Step(y, middle.Y, toY));
    });

    /// <summary>Turns the selection, or everything, about its middle.</summary>
    public IActionResult OnPostTurn(string? degrees) => Edit(() => new TurnParts(ChosenOrAll(), Degrees(degrees), SelectedBounds.Middle));

    public IActionResult OnPostCentre() => Edit(() => new CentreParts(ChosenOrAll(), SelectedBounds.Middle));

    /// <summary>Puts the selection where the part at an index (0 to the number of parts) stands.</summary>
    public IActionResult OnPostOrder(int index) => Edit(() => new PlaceInOrder(ChosenIds(), index));

    public IActionResult OnPostStep(bool earlier) => Edit(() => new StepInOrder(ChosenIds(), earlier));

    /// <summary>Hides or shows the selection, or one part alone.</summary>
    public IActionResult OnPostHide(bool hidden, int? only) => Edit(() => new HideParts(OnlyOrChosen(only), hidden));

    /// <summary>Locks or unlocks the selection, or one part alone.</summary>
    public IActionResult OnPostLock(bool locked, int? only) => Edit(() => new LockParts(OnlyOrChosen(only), locked));

    public IActionResult OnPostName(string? name) => Edit(() => new NameParts(ChosenIds(), name ?? string.Empty));

    public IActionResult OnPostRole(string? role) => Edit(() =>
        PartRoles.TryParse(role ?? string.Empty, out var wanted) ? new GiveRole(ChosenIds(), wanted) : throw new EditRefusedException("That is no role of a part."));

    /// <summary>Chooses a machine, and a hoop of it; without one, the first that the job fits.</summary>
    public IActionResult OnPostHoop(string machine, string? hoop) => Edit(() =>
    {
        var model = SewingMachineModel.Find(machine) ?? throw new EditRefusedException("That machine is not known here.");
        return new ChooseHoop(machine, hoop ?? (model.Hoops.FirstOrDefault(h => FitAdvisor.Fits(Open.Plan, h)) ?? model.Hoops[0]).Id);
    });

    public IActionResult OnPostCloth(string kind, string? colour) => Edit(() =>
    {
        var chosen = Cloths.Concat([Open.Job.Cloth.Profile]).FirstOrDefault(c => c.Id == kind) ?? throw new EditRefusedException("That cloth is not known here.");
        return new ChooseCloth(new(chosen, Rgb.TryParse(colour, out var rgb) ? rgb : chosen.UsualColour));
    });

    public IActionResult OnPostRename(string? title) => Edit(() => new RenameJob(title ?? string.Empty));

    /// <summary>Does what a finding offers.</summary>
    public IActionResult OnPostMend(string key) => Edit(() =>
        Open.Findings.SelectMany(f => f.Remedies).FirstOrDefault(r => r.Key == key)?.Edit ?? throw new EditRefusedException("That is put right already."));

    public IActionResult OnPostUndo() => Change(() => jobs.GoTo(Id, Version, Open.Stored.Position - 1), () => $"Undid: {Open.Stored.Said}");

    public IActionResult OnPostRedo() => Change(() => jobs.GoTo(Id, Version, Open.Stored.Position + 1), null);

    public IActionResult OnPostGoTo(long position) => Change(() => jobs.GoTo(Id, Version, position), null);

    private IReadOnlySet<PartId> ChosenOrAll()
    {
        var chosen = ChosenIds();
        return chosen.Count > 0 ? chosen : Open.Job.Order.Select(p => p.Id).ToHashSet();
    }

    private HashSet<PartId> OnlyOrChosen(int? only) => only is { } id ? [new PartId(id)] : ChosenIds();

    private IActionResult Edit(Func<JobEdit> edit) => Change(() =>
    {
        var wanted = edit();

        // Stitches are made before anything is stored, so that long work can be stopped and leaves nothing behind.
        if (Version == Open.Stored.Version) _tried = desk.Try(wanted.Apply(Open.Job), HttpContext.RequestAborted);
        return jobs.Apply(Id, Version, wanted);
    }, null);

    private SewingPlan? _tried;

    private IActionResult Change(Func<StoredJob> change, Func<string>? says)
    {
        var told = says?.Invoke();
        try
        {
            var stored = change();
            Says = stored.Version == Version ? null : told ?? stored.Said;
            Show(desk.Open(stored, _tried));
        }
        catch (OperationCanceledException) when (HttpContext.RequestAborted.IsCancellationRequested)
        {
            return new EmptyResult(); // stopped by the user, who does not wait for an answer any more
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            Response.StatusCode = refusal.Status;
            (Says, Trouble) = (refusal.Sentence, true);
            if (desk.Find(Id) is { } fresh) Show(fresh);
        }

        return Updated();
    }
}
