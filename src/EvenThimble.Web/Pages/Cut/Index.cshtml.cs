using System.Globalization;
using System.Text;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages.Cut;

/// <summary>A job's pieces of cloth on the mat: laid, moved by hand, advised, written and handed to cutters.</summary>
public sealed class IndexModel(JobDesk desk, JobStore jobs, CutDesk cutting, EquipmentRoom room) : PageModel
{
    private const double MatLineMm = 50;

    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    public OpenJob Open { get; private set; } = null!;

    public Preferences Look { get; private set; } = null!;

    public CutJob Cut => cutting.Of(Open);

    public CutMat Mat => CutDesk.MatOf(Open.Job.Cutting.Cutter);

    public CutLayout Layout => _layout ??= cutting.LayoutOn(Open, Mat);

    public CutAdvice Advice => Cut.AdviceFor(Mat.Cutter);

    public IReadOnlyList<CutFinding> Findings => [.. Cut.Findings.Concat(Layout.Findings).Take(12)];

    public IReadOnlyList<CutArrival> Arrivals { get; private set; } = [];

    /// <summary>What could not be done, in a sentence.</summary>
    public string? Says { get; private set; }

    private CutLayout? _layout;

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        Look = Preferences.Of(HttpContext);
        if (desk.Find(Id) is { } open) Open = open;
        else context.Result = NotFound();
    }

    public void OnGet()
    {
        // Everything is shown from the job as it stands.
    }

    /// <summary>Lays pieces otherwise.</summary>
    public IActionResult OnPostLay(string? cutter, string? copies, string? gap, CutTurning turning, bool? faceDown, bool testSquare) => Done(() => new LayOnMat(
        CutDesk.MatOf(cutter).Id,
        LengthText.TryParse(gap, Look.Unit, out var mm) ? mm : throw new EditRefusedException("That is no gap. Type a length, such as 4."),
        string.IsNullOrWhiteSpace(copies) ? null : int.TryParse(copies, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : throw new EditRefusedException("That is no number of copies. Type a whole number, such as 6."),
        faceDown == CutAdvice.UsuallyFaceDown(Open.Job.Cloth.Profile) && Open.Job.Cutting.FaceDown is null ? null : faceDown,
        turning,
        testSquare));

    /// <summary>Lays a piece by hand.</summary>
    public IActionResult OnPostMove(int part, int line, int copy, int sheet, double x, double y, double turn) =>
        Done(() => new LayPiece(new(new(new(part), line), copy, sheet, Math.Round(x, 2), Math.Round(y, 2), turn)));

    /// <summary>Lays all pieces anew.</summary>
    public IActionResult OnPostAnew() => Done(() => new LayAnew());

    /// <summary>Writes the files for chosen cutters and hands them over.</summary>
    public IActionResult OnPostHandOver(string[] cutters, string? name, bool replace)
    {
        var stem = Titles.FileName(name ?? string.Empty);
        var chosen = room.Cutters.Where(c => cutters.Contains(c.Model.Id)).ToList();
        if (chosen.Count == 0) return Troubled("No cutter is chosen. Tick one or more.");
        if (Titles.Clean(name).Length == 0) return Troubled("Type a name for the file.");
        Arrivals =
        [
            .. chosen.SelectMany(c => cutting.Deliver(
                Open, c, CutFileKind.Find(Request.SentForm()[$"kind-{c.Model.Id}"]) ?? c.Model.Takes[0], stem, Request.SentForm()[$"where-{c.Model.Id}"].ToString() is { Length: > 0 } where ? where : c.Model.Id, replace)),
        ];
        if (Arrivals.Any(a => !a.Done)) Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }

    /// <summary>A number for a drawing.</summary>
    public string N(double v) => v.ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>The edges of a piece as a path.</summary>
    public string PathOf(LaidPiece piece)
    {
        var path = new StringBuilder();
        foreach (var ring in piece.Rings) path.Append('M').AppendJoin('L', ring.Select(p => $"{N(p.X)} {N(p.Y)}")).Append('Z');
        return path.ToString();
    }

    /// <summary>The lines of a mat, each 50 mm.</summary>
    public string MatLines(CutSheet sheet)
    {
        var path = new StringBuilder();
        for (var x = MatLineMm; x < sheet.Width; x += MatLineMm) path.Append(CultureInfo.InvariantCulture, $"M{x} 0V{N(sheet.Height)}");
        for (var y = MatLineMm; y < sheet.Height; y += MatLineMm) path.Append(CultureInfo.InvariantCulture, $"M0 {y}H{N(sheet.Width)}");
        return path.ToString();
    }

    private IActionResult Done(Func<JobEdit> edit)
    {
        try
        {
            jobs.Apply(Id, Open.Stored.Version, edit());
            return Redirect($"/jobs/{Id}/cut");
        }
        catch (Exception e) when (e is EditRefusedException or StaleEditException)
        {
            return Troubled(e.Message);
        }
    }

    private PageResult Troubled(string says)
    {
        Says = says;
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }
}
