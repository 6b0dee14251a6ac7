using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>The plan that a command would give; nothing of it is stored.</summary>
public sealed class TryModel(JobDesk desk) : BenchPageModel(desk)
{
    private readonly JobDesk _desk = desk;

    /// <summary>Tries the command of a name; <c>show=density</c> asks for the density of its stitches as a picture.</summary>
    public IActionResult OnPost(string command)
    {
        if (!BenchRegistry.Commands.TryGetValue(command, out var known) || !known.Previews) return NotFound();
        if (Version != Bench.Open.Stored.Version) return StatusCode(StatusCodes.Status409Conflict);
        try
        {
            if (known.StepOf(Bench, Request.SentForm()) is not CommandStep.Change change) return NotFound();
            var plan = _desk.Try(change.Edit.Apply(Bench.Job));
            return Request.SentForm()["show"] == "density" ? File(DensityPainter.Picture(DensityMap.Of(plan)), "image/png") : File(PlanStream.Write(plan), "application/octet-stream");
        }
        catch (OperationCanceledException) when (HttpContext.RequestAborted.IsCancellationRequested)
        {
            return new EmptyResult();
        }
        catch (EditRefusedException e)
        {
            return StatusCode(StatusCodes.Status422UnprocessableEntity, e.Message);
        }
    }
}
