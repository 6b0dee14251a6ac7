using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Does a command: one edit, one step of the history. Undoing and redoing walk along the history.</summary>
public sealed class DoModel(JobDesk desk, JobStore jobs) : BenchPageModel(desk)
{
    private readonly JobDesk _desk = desk;

    /// <summary>Does the command of a name.</summary>
    public IActionResult OnPost(string command)
    {
        if (!BenchRegistry.Commands.TryGetValue(command, out var known)) return NotFound();
        var before = Bench.Job.NextPart;
        return Changed(
            () => known.StepOf(Bench, Request.SentForm()) switch
            {
                CommandStep.Change change => Done(change.Edit, known.Afterwards),
                CommandStep.Walk walk => (jobs.GoTo(Id, Version, walk.Position), null, walk.Says),
                var other => throw new NotSupportedException($"A {other.GetType().Name} cannot be done."),
            },
            known.KeepsTyped,
            known.Selects == SelectedAfter.WhatCameIn ? stored => stored.Job.NextPart > before ? (before, stored.Job.NextPart) : null : null);
    }

    /// <summary>Stitches are made before anything is stored, so that long work can be stopped and leaves nothing behind.</summary>
    private (StoredJob Stored, SewingPlan? Plan, string? Says) Done(JobEdit edit, Action<BenchView, JobEdit>? afterwards)
    {
        if (Version != Bench.Open.Stored.Version) throw new StaleEditException();
        var changed = edit.Apply(Bench.Job);
        var plan = _desk.Try(changed);
        var stored = jobs.Apply(Id, Version, edit, JobSummary.Of(changed, plan, Bench.Machines, Bench.Get<LetterFonts>()));
        afterwards?.Invoke(Bench, edit);
        return (stored, plan, null);
    }

    private IActionResult Changed(Func<(StoredJob Stored, SewingPlan? Plan, string? Says)> change, bool keepsTyped, Func<StoredJob, (int, int)?>? selects)
    {
        try
        {
            var (stored, plan, says) = change();
            var changed = stored.Version != Version;
            return Answered(new(Bench.With(_desk.Open(stored, plan)), Shown) { Says = changed ? says ?? stored.Said : null, Selects = changed ? selects?.Invoke(stored) : null });
        }
        catch (OperationCanceledException) when (HttpContext.RequestAborted.IsCancellationRequested)
        {
            return new EmptyResult(); // stopped by the user, who does not wait for an answer any more
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            Response.StatusCode = refusal.Status;
            var fresh = _desk.Find(Id) is { } now ? Bench.With(now) : Bench;
            return Answered(new(fresh, Shown) { Says = refusal.Sentence, Trouble = true, KeepsCard = keepsTyped && fresh.Open.Stored.Version == Version });
        }
    }
}
