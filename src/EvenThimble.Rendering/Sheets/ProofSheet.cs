using SkiaSharp;

namespace EvenThimble.Rendering.Sheets;

/// <summary>A name on a proof.</summary>
/// <param name="Number">In the order of the roster.</param>
/// <param name="Text">As it is spelled.</param>
/// <param name="Garment">How many, and on what; empty: one.</param>
/// <param name="Picture">As thread (PNG); null: it cannot be sewn.</param>
/// <param name="Note">What is to be looked at; empty: nothing.</param>
public sealed record ProofLine(int Number, string Text, string Garment, byte[]? Picture, string Note);

/// <summary>What a customer reads before names are sewn (PDF): every name as text and as thread, with a box to tick and a line to sign.</summary>
public sealed record ProofSheet(string Title, IReadOnlyList<string> Lines, IReadOnlyList<ProofLine> Names)
{
    private const float MarginMm = 15;
    private const float RowMm = 17;
    private const float BoxMm = 5;
    private const float SignMm = 24;
    private const float MostPictureMm = 13;

    /// <summary>The pages.</summary>
    public byte[] ToPdf(Paper paper)
    {
        var rest = new Queue<ProofLine>(Names);
        var signed = false;
        return SheetType.Document(Title, paper, (canvas, page) =>
        {
            Page(canvas, paper, rest, page, ref signed);
            return rest.Count > 0 || !signed;
        });
    }

    private void Page(SKCanvas canvas, Paper paper, Queue<ProofLine> rest, int page, ref bool signed)
    {
        using var title = SheetType.Font(16, bold: true);
        using var large = SheetType.Font(11, bold: true);
        using var plain = SheetType.Font(8.5f);
        using var ink = SheetType.Filled(SheetType.Ink);
        using var soft = SheetType.Filled(SheetType.Soft);
        using var line = SheetType.Stroke(SheetType.Line, 0.2f);
        using var edge = SheetType.Stroke(SheetType.Ink, 0.3f);
        var (width, y) = ((float)paper.Width - (2 * MarginMm), MarginMm + 4);
        canvas.DrawText(SheetType.Cut(Title, title, width), MarginMm, y, SKTextAlign.Left, title, ink);
        y += 2;
        foreach (var said in page == 1 ? Lines : [])
        {
            y += 5;
            canvas.DrawText(SheetType.Cut(said, plain, width), MarginMm, y, SKTextAlign.Left, plain, soft);
        }

        y += 4;
        var bottom = (float)paper.Height - MarginMm - 6;
        while (rest.TryPeek(out var name) && y + RowMm < bottom)
        {
            rest.Dequeue();
            canvas.DrawRect(MarginMm, y + 5, BoxMm, BoxMm, edge);
            canvas.DrawText($"{name.Number}", MarginMm + BoxMm + 9, y + 9, SKTextAlign.Right, plain, soft);
            var (left, half) = (MarginMm + BoxMm + 12, (width - BoxMm - 12) / 2);
            canvas.DrawText(SheetType.Cut(name.Text, large, half - 3), left, y + 8.5f, SKTextAlign.Left, large, ink);
            canvas.DrawText(SheetType.Cut(string.Join(" · ", new[] { name.Garment, name.Note }.Where(t => t.Length > 0)), plain, half - 3), left, y + 13, SKTextAlign.Left, plain, soft);
            if (name.Picture is not null) Picture(canvas, name.Picture, left + half, y + 1.5f, half, MostPictureMm);
            y += RowMm;
            canvas.DrawLine(MarginMm, y, MarginMm + width, y, line);
        }

        if (rest.Count == 0 && y + SignMm < bottom)
        {
            canvas.DrawText("Every name is spelled as it is to be sewn.", MarginMm, y + 8, SKTextAlign.Left, plain, ink);
            canvas.DrawLine(MarginMm, y + 19, MarginMm + 70, y + 19, edge);
            canvas.DrawLine(MarginMm + 80, y + 19, MarginMm + width, y + 19, edge);
            canvas.DrawText("date", MarginMm, y + 23, SKTextAlign.Left, plain, soft);
            canvas.DrawText("name", MarginMm + 80, y + 23, SKTextAlign.Left, plain, soft);
            signed = true;
        }

        canvas.DrawText($"page {page}", MarginMm + width, (float)paper.Height - MarginMm, SKTextAlign.Right, plain, soft);
    }

    /// <summary>A picture as large as it has room, at its left.</summary>
    private static void Picture(SKCanvas canvas, byte[] png, float left, float top, float width, float height)
    {
        using var image = SKImage.FromEncodedData(png);
        if (image is null) return;
        var scale = Math.Min(width / image.Width, height / image.Height);
        canvas.DrawImage(image, SKRect.Create(left, top + ((height - (image.Height * scale)) / 2), image.Width * scale, image.Height * scale), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
    }
}
