using EvenThimble.Core.Cutting;
using SkiaSharp;

namespace EvenThimble.Rendering.Sheets;

/// <summary>Cut lines at true size (PDF), to be cut with scissors: a page for each sheet, on the paper where the sheet fits it, else on a page of its own size, with a rule to check the printer with.</summary>
/// <param name="Title">Of the job.</param>
/// <param name="Sheets">The sheets, each with what it is called.</param>
public sealed record CutTemplate(string Title, IReadOnlyList<(string Name, CutFile File)> Sheets)
{
    private const float MarginMm = 10;
    private const float HeadMm = 12;
    private const float FootMm = 16;

    /// <summary>What to mind when it is cut, on a page of its own behind the others: a word, and what it says.</summary>
    public IReadOnlyList<(string What, string Says)> Advice { get; init; } = [];

    /// <summary>How much of a paper can be laid with pieces, mm.</summary>
    public static (double Width, double Height) RoomOn(Paper paper) => (paper.Width - (2 * MarginMm), paper.Height - (2 * MarginMm) - HeadMm - FootMm);

    /// <summary>The pages.</summary>
    public byte[] ToPdf(Paper paper)
    {
        var (wide, high) = RoomOn(paper);
        return SheetType.Document($"{Title}, cut template", n => n <= Sheets.Count ? PageFor(Sheets[n - 1].File) : paper, (canvas, page) =>
        {
            if (page > Sheets.Count)
            {
                DrawAdvice(canvas, paper);
                return false;
            }

            var (name, file) = Sheets[page - 1];
            var size = PageFor(file);
            Draw(canvas, file, size, name, page);
            return page < Sheets.Count || Advice.Count > 0;
        });

        Paper PageFor(CutFile file) => file.Width <= wide && file.Height <= high ? paper : new($"{file.Width:0} × {file.Height:0}", Math.Max(file.Width + (2 * MarginMm), paper.Width), file.Height + (2 * MarginMm) + HeadMm + FootMm);
    }

    private void Draw(SKCanvas canvas, CutFile file, Paper paper, string name, int page)
    {
        using var title = SheetType.Font(13, bold: true);
        using var text = SheetType.Font(8.5f);
        using var ink = SheetType.Filled(SheetType.Ink);
        using var soft = SheetType.Filled(SheetType.Soft);
        using var rule = SheetType.Stroke(SheetType.Ink, 0.3f);
        using var cut = SheetType.Stroke(SheetType.Ink, 0.15f);
        var (right, bottom) = ((float)paper.Width - MarginMm, (float)paper.Height - MarginMm);
        canvas.DrawText(SheetType.Cut($"{Title}: {name}", title, right - MarginMm - 40), MarginMm, MarginMm + 5, SKTextAlign.Left, title, ink);
        canvas.DrawText(Sheets.Count == 1 ? string.Empty : $"sheet {page} of {Sheets.Count}", right, MarginMm + 5, SKTextAlign.Right, text, ink);
        canvas.Save();
        canvas.Translate(MarginMm, MarginMm + HeadMm);
        foreach (var line in file.Lines)
        {
            using var path = SheetType.Poly(line, close: true);
            canvas.DrawPath(path, cut);
        }

        canvas.Restore();
        canvas.DrawLine(MarginMm, bottom - 5, MarginMm + TemplateSheet.RuleMm, bottom - 5, rule);
        for (var mm = 0; mm <= TemplateSheet.RuleMm; mm += 10) canvas.DrawLine(MarginMm + mm, bottom - (mm % 50 == 0 ? 8 : 6.5f), MarginMm + mm, bottom - 5, rule);
        canvas.DrawText("50 mm", MarginMm + TemplateSheet.RuleMm + 2, bottom - 5, SKTextAlign.Left, text, ink);
        canvas.DrawText("Print at 100 %, not fitted to the page, and measure this rule first.", MarginMm, bottom, SKTextAlign.Left, text, soft);
    }

    private void DrawAdvice(SKCanvas canvas, Paper paper)
    {
        const float leading = 5, indent = 26;
        using var title = SheetType.Font(13, bold: true);
        using var word = SheetType.Font(9.5f, bold: true);
        using var text = SheetType.Font(9.5f);
        using var ink = SheetType.Filled(SheetType.Ink);
        var y = MarginMm + 5;
        canvas.DrawText(SheetType.Cut($"{Title}: before cutting", title, (float)paper.Width - (2 * MarginMm)), MarginMm, y, SKTextAlign.Left, title, ink);
        y += 2 * leading;
        foreach (var (what, says) in Advice)
        {
            canvas.DrawText(what, MarginMm, y, SKTextAlign.Left, word, ink);
            foreach (var line in SheetType.Lines(says, text, (float)paper.Width - (2 * MarginMm) - indent))
            {
                canvas.DrawText(line, MarginMm + indent, y, SKTextAlign.Left, text, ink);
                y += leading;
            }

            y += leading / 2;
        }
    }
}
