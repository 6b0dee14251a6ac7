using EvenThimble.Core.Colour;
using SkiaSharp;

namespace EvenThimble.Rendering.Sheets;

/// <summary>A size of paper, mm.</summary>
/// <param name="Name">As it is called.</param>
/// <param name="Width">Across.</param>
/// <param name="Height">Down.</param>
public sealed record Paper(string Name, double Width, double Height)
{
    /// <summary>ISO 216.</summary>
    public static readonly Paper A4 = new("A4", 210, 297);

    /// <summary>ANSI A.</summary>
    public static readonly Paper Letter = new("Letter", 215.9, 279.4);

    /// <summary>The paper of a name; A4 where there is none.</summary>
    public static Paper Named(string? name) => name is "letter" or "Letter" ? Letter : A4;
}

/// <summary>A column of a list.</summary>
/// <param name="Head">What stands above it.</param>
/// <param name="Share">Its part of the width, against the other columns.</param>
/// <param name="Right">Its cells stand at its right.</param>
public sealed record SheetColumn(string Head, double Share, bool Right = false);

/// <summary>A row of a list.</summary>
/// <param name="Swatch">A spot of colour before it; null: none.</param>
/// <param name="Cells">By column.</param>
/// <param name="Note">What is wrong with it, on a line of its own below it; empty: nothing.</param>
public sealed record SheetRow(Rgb? Swatch, IReadOnlyList<string> Cells, string Note = "");

/// <summary>A list on paper (PDF): a title, some lines, a table over as many pages as it takes, some lines below.</summary>
public sealed record ListSheet(string Title, IReadOnlyList<string> Lines, IReadOnlyList<SheetColumn> Columns, IReadOnlyList<SheetRow> Rows, IReadOnlyList<string> Foot)
{
    private const float MarginMm = 15;
    private const float RowMm = 6.5f;
    private const float NoteMm = 4.2f;
    private const float FootMm = 5.5f;
    private const float SwatchMm = 7;
    private const float TitleSize = 16;
    private const float TextSize = 8.5f;
    private const float HeadSize = 7.5f;

    /// <summary>The pages.</summary>
    public byte[] ToPdf(Paper paper)
    {
        var (rest, foot) = (new Queue<SheetRow>(Rows), new Queue<string>(Foot));
        return SheetType.Document(Title, paper, (canvas, page) =>
        {
            Page(canvas, paper, rest, foot, page);
            return rest.Count + foot.Count > 0;
        });
    }

    private void Page(SKCanvas canvas, Paper paper, Queue<SheetRow> rest, Queue<string> foot, int page)
    {
        using var title = SheetType.Font(TitleSize, bold: true);
        using var plain = SheetType.Font(TextSize);
        using var bold = SheetType.Font(TextSize, bold: true);
        using var head = SheetType.Font(HeadSize, bold: true);
        using var ink = SheetType.Filled(SheetType.Ink);
        using var soft = SheetType.Filled(SheetType.Soft);
        using var line = SheetType.Stroke(SheetType.Line, 0.2f);
        var (width, y) = ((float)paper.Width - (2 * MarginMm), MarginMm + 4);
        canvas.DrawText(SheetType.Cut(Title, title, width), MarginMm, y, SKTextAlign.Left, title, ink);
        y += 3;
        foreach (var said in page == 1 ? Lines : [])
        {
            y += 5;
            canvas.DrawText(SheetType.Cut(said, plain, width), MarginMm, y, SKTextAlign.Left, plain, soft);
        }

        y += 8;
        var places = Places(width - SwatchMm);
        Cells(canvas, Columns.Select(c => c.Head).ToList(), places, y, head, soft);
        y += 2;
        canvas.DrawLine(MarginMm, y, MarginMm + width, y, line);
        var bottom = (float)paper.Height - MarginMm - 5;
        while (rest.TryPeek(out var row) && y + RowMm + NoteMm < bottom)
        {
            rest.Dequeue();
            if (row.Swatch is { } colour) SheetType.Swatch(canvas, MarginMm, y + 1.2f, colour, line);
            Cells(canvas, row.Cells, places, y + 4.6f, plain, ink);
            y += RowMm;
            if (row.Note.Length > 0)
            {
                y += NoteMm;
                canvas.DrawText(SheetType.Cut(row.Note, bold, width - SwatchMm), MarginMm + SwatchMm, y - 1.4f, SKTextAlign.Left, bold, ink);
            }

            canvas.DrawLine(MarginMm, y, MarginMm + width, y, line);
        }

        while (rest.Count == 0 && y + FootMm < bottom && foot.TryDequeue(out var said))
        {
            y += FootMm;
            canvas.DrawText(SheetType.Cut(said, bold, width), MarginMm, y + 1, SKTextAlign.Left, bold, ink);
        }

        var number = rest.Count + foot.Count == 0 && page == 1 ? string.Empty : $"page {page}";
        canvas.DrawText(number, MarginMm + width, (float)paper.Height - MarginMm, SKTextAlign.Right, head, soft);
    }

    private List<(float Left, float Width, bool Right)> Places(float width)
    {
        var (at, all) = (MarginMm + SwatchMm, (float)Columns.Sum(c => c.Share));
        return [.. Columns.Select(c =>
        {
            var place = (at, (float)c.Share / all * width, c.Right);
            at += place.Item2;
            return place;
        })];
    }

    private static void Cells(SKCanvas canvas, IReadOnlyList<string> cells, List<(float Left, float Width, bool Right)> places, float y, SKFont font, SKPaint paint)
    {
        for (var c = 0; c < cells.Count; c++)
        {
            var (left, width, right) = places[c];
            canvas.DrawText(SheetType.Cut(cells[c], font, width - 2), right ? left + width - 2 : left, y, right ? SKTextAlign.Right : SKTextAlign.Left, font, paint);
        }
    }
}
