using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;
using EvenThimble.Rendering.Sheets;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Cut;

/// <summary>A cut file of a job, to be kept wherever the browser puts it.</summary>
public sealed class FileModel(JobDesk desk, CutDesk cutting) : PageModel
{
    /// <summary>The file of a format: of one sheet, from 1, or a PDF of all; on the job's mat or another.</summary>
    public IActionResult OnGet(long id, string format, int sheet = 1, string? mat = null, string? paper = null)
    {
        if (desk.Find(id) is not { } open || CutFileKind.Find(format) is not { } kind) return NotFound();
        try
        {
            var layout = cutting.LayoutOn(open, CutDesk.MatOf(mat ?? open.Job.Cutting.Cutter));
            return File(cutting.Write(open, layout, kind, sheet, Paper.Named(paper)), kind.MediaType, CutDesk.FileName(Titles.FileName(open.Job.Title), layout, sheet, kind));
        }
        catch (EditRefusedException e)
        {
            return new ContentResult { StatusCode = StatusCodes.Status422UnprocessableEntity, Content = e.Message, ContentType = "text/plain; charset=utf-8" };
        }
    }
}
