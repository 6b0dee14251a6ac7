using EvenThimble.Core.Colour;
using SkiaSharp;

namespace EvenThimble.Rendering.Sheets;

/// <summary>A line of the sewing sheet: a thread that is sewn, or a stop.</summary>
/// <param name="Swatch">The thread's colour; null: a stop.</param>
/// <param name="Number">Of the thread, in its chart.</param>
/// <param name="Name">Of the thread, or what the machine says at the stop.</param>
/// <param name="Maker">Of the thread.</param>
/// <param name="Needle">Which needle; empty on a machine with one.</param>
/// <param name="Sews">What is sewn with it.</param>
/// <param name="Stitches">Needle points.</param>
/// <param name="Metres">Thread, m.</param>
/// <param name="Minutes">Time, minutes.</param>
public sealed record SheetStep(Rgb? Swatch, string Number, string Name, string Maker, string Needle, string Sews, int Stitches, double Metres, double Minutes);

/// <summary>What is sewn in one hooping.</summary>
/// <param name="Head">Its number, hoop, position and file.</param>
/// <param name="Says">Size, stitches, distances from the edges.</param>
/// <param name="Steps">In order.</param>
public sealed record SheetHooping(string Head, string Says, IReadOnlyList<SheetStep> Steps);

/// <summary>The sheet beside the machine (PDF): picture, size, hoop, threads in order with what is to be done at each stop; on one page where that is possible.</summary>
/// <param name="Title">Of the job.</param>
/// <param name="Date">As it is written.</param>
/// <param name="Picture">Draws the job on its cloth, with its hoop (PNG).</param>
/// <param name="Facts">What is to be known, by name.</param>
/// <param name="Hoopings">What is sewn, hooping by hooping.</param>
/// <param name="Notes">The user's own.</param>
public sealed record SewingSheet(string Title, string Date, Func<byte[]> Picture, IReadOnlyList<(string Name, string Value)> Facts, IReadOnlyList<SheetHooping> Hoopings, string Notes)
{
    private const float MarginMm = 13;
    private const float PictureWide = 74;
    private const float PictureHigh = 74;
    private const float RowMm = 5.6f;
    private const float BetweenMm = 3;
    private const float TextSize = 8;
    private const float SmallSize = 7;
    private static readonly (string Head, float Share, bool Right)[] Columns =
        [("", 5, false), ("Number", 15, false), ("Name", 38, false), ("Maker", 28, false), ("Needle", 12, false), ("Sews", 42, false), ("Stitches", 16, true), ("Thread", 14, true), ("Minutes", 14, true)];

    /// <summary>The pages.</summary>
    public byte[] ToPdf(Paper paper)
    {
        var rest = new Queue<Action<SKCanvas, float>>();
        var heights = new Queue<float>();
        var width = (float)paper.Width - (2 * MarginMm);
        Collect(width, (height, draw) =>
        {
            heights.Enqueue(height);
            rest.Enqueue(draw);
        });
        return SheetType.Document($"{Title}, sewing sheet", paper, (canvas, page) =>
        {
            var y = page == 1 ? Head(canvas, width) : MarginMm;
            var bottom = (float)paper.Height - MarginMm - 4;
            while (rest.Count > 0 && (y + heights.Peek() <= bottom || y <= MarginMm))
            {
                rest.Dequeue()(canvas, y);
                y += heights.Dequeue();
            }

            using var small = SheetType.Font(SmallSize);
            using var soft = SheetType.Filled(SheetType.Soft);
            if (page > 1 || rest.Count > 0) canvas.DrawText($"{SheetType.Cut(Title, small, width - 30)}, page {page}", MarginMm + width, (float)paper.Height - MarginMm, SKTextAlign.Right, small, soft);
            return rest.Count > 0;
        });
    }

    /// <summary>Picture, title and facts; tells where the rest begins.</summary>
    private float Head(SKCanvas canvas, float width)
    {
        using var title = SheetType.Font(16, bold: true);
        using var text = SheetType.Font(TextSize);
        using var bold = SheetType.Font(TextSize, bold: true);
        using var ink = SheetType.Filled(SheetType.Ink);
        using var soft = SheetType.Filled(SheetType.Soft);
        canvas.DrawText(SheetType.Cut(Title, title, width - 40), MarginMm, MarginMm + 5, SKTextAlign.Left, title, ink);
        canvas.DrawText(Date, MarginMm + width, MarginMm + 5, SKTextAlign.Right, text, soft);
        var top = MarginMm + 9;
        using (var picture = SKImage.FromEncodedData(Picture()))
        {
            var scale = Math.Min(PictureWide / picture.Width, PictureHigh / picture.Height);
            canvas.DrawImage(picture, SKRect.Create(MarginMm, top, picture.Width * scale, picture.Height * scale), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        }

        var (left, y) = (MarginMm + PictureWide + 6, top + 3);
        var room = width - PictureWide - 6;
        foreach (var (name, value) in Facts)
        {
            canvas.DrawText(name, left, y, SKTextAlign.Left, bold, soft);
            foreach (var line in SheetType.Lines(value, text, room - 27))
            {
                canvas.DrawText(line, left + 27, y, SKTextAlign.Left, text, ink);
                y += 4;
            }

            y += 0.6f;
        }

        return Math.Max(y, top + PictureHigh) + 3;
    }

    /// <summary>What follows, bit by bit: how high it is and how it is drawn.</summary>
    private void Collect(float width, Action<float, Action<SKCanvas, float>> add)
    {
        var hasNeedles = Hoopings.Any(h => h.Steps.Any(s => s.Needle.Length > 0));
        var shares = Columns.Sum(c => c.Head == "Needle" && !hasNeedles ? 0 : c.Share);
        List<(string Head, float Left, float Wide, bool Right)> places = [];
        var at = MarginMm;
        foreach (var (head, share, right) in Columns)
        {
            if (head == "Needle" && !hasNeedles) continue;
            places.Add((head, at, share / shares * width, right));
            at += share / shares * width;
        }

        foreach (var hooping in Hoopings)
        {
            add((hooping.Says.Length > 0 ? 15 : 11) + BetweenMm, (canvas, top) =>
            {
                var y = top + BetweenMm;
                using var bold = SheetType.Font(9.5f, bold: true);
                using var text = SheetType.Font(TextSize);
                using var small = SheetType.Font(SmallSize, bold: true);
                using var ink = SheetType.Filled(SheetType.Ink);
                using var soft = SheetType.Filled(SheetType.Soft);
                using var line = SheetType.Stroke(SheetType.Line, 0.2f);
                canvas.DrawText(SheetType.Cut(hooping.Head, bold, width), MarginMm, y + 4, SKTextAlign.Left, bold, ink);
                if (hooping.Says.Length > 0) canvas.DrawText(SheetType.Cut(hooping.Says, text, width), MarginMm, y + 8.4f, SKTextAlign.Left, text, soft);
                var foot = y + (hooping.Says.Length > 0 ? 13 : 9);
                foreach (var place in places) Cell(canvas, place.Head, place, foot, small, soft);
                canvas.DrawLine(MarginMm, foot + 1.4f, MarginMm + width, foot + 1.4f, line);
            });
            var number = 0;
            foreach (var step in hooping.Steps)
            {
                var row = step.Swatch is null ? 0 : ++number;
                add(RowMm, (canvas, y) => Step(canvas, step, row, places, y, width));
            }
        }

        if (Notes.Length == 0) return;
        using var font = SheetType.Font(TextSize);
        add(7, (canvas, y) =>
        {
            using var bold = SheetType.Font(9.5f, bold: true);
            using var ink = SheetType.Filled(SheetType.Ink);
            canvas.DrawText("Notes", MarginMm, y + 5, SKTextAlign.Left, bold, ink);
        });
        foreach (var line in SheetType.Lines(Notes, font, width))
        {
            add(4.2f, (canvas, y) =>
            {
                using var text = SheetType.Font(TextSize);
                using var ink = SheetType.Filled(SheetType.Ink);
                canvas.DrawText(line, MarginMm, y + 3, SKTextAlign.Left, text, ink);
            });
        }
    }

    private static void Step(SKCanvas canvas, SheetStep step, int number, List<(string Head, float Left, float Wide, bool Right)> places, float y, float width)
    {
        using var text = SheetType.Font(TextSize);
        using var bold = SheetType.Font(TextSize, bold: true);
        using var ink = SheetType.Filled(SheetType.Ink);
        using var edge = SheetType.Stroke(SheetType.Line, 0.2f);
        var foot = y + 4;
        if (step.Swatch is { } colour)
        {
            SheetType.Swatch(canvas, MarginMm, y + 0.8f, colour, edge, 4);
            string[] cells = ["", step.Number, step.Name, step.Maker, step.Needle, step.Sews, step.Stitches.ToString("N0", System.Globalization.CultureInfo.InvariantCulture), $"{Short(step.Metres)} m", Short(step.Minutes)];
            foreach (var place in places)
            {
                var cell = cells[Array.FindIndex(Columns, c => c.Head == place.Head)];
                if (cell.Length > 0) Cell(canvas, cell, place, foot, place.Head == "Number" ? bold : text, ink);
            }
        }
        else
        {
            using var box = SheetType.Stroke(SheetType.Ink, 0.25f);
            canvas.DrawRect(MarginMm + 0.4f, y + 1, 3.2f, 3.2f, box);
            canvas.DrawText(SheetType.Cut(step.Name.Length > 0 ? $"Stop: {step.Name}" : "Stop", bold, width - 8), places[1].Left, foot, SKTextAlign.Left, bold, ink);
        }

        canvas.DrawLine(MarginMm, y + RowMm - 0.1f, MarginMm + width, y + RowMm - 0.1f, edge);
    }

    private static string Short(double value) => value.ToString("0.0", System.Globalization.CultureInfo.InvariantCulture);

    private static void Cell(SKCanvas canvas, string cell, (string Head, float Left, float Wide, bool Right) place, float y, SKFont font, SKPaint paint) =>
        canvas.DrawText(SheetType.Cut(cell, font, place.Wide - 1.5f), place.Right ? place.Left + place.Wide - 1.5f : place.Left, y, place.Right ? SKTextAlign.Right : SKTextAlign.Left, font, paint);
}
