using EvenThimble.Core.Colour;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using SkiaSharp;

namespace EvenThimble.Rendering.Sheets;

/// <summary>A field on a template.</summary>
/// <param name="Label">Its number, as the sewing sheet and the stop messages have it.</param>
/// <param name="Edge">Its edge as a closed line, mm.</param>
/// <param name="Centre">Its middle, mm.</param>
public sealed record TemplateField(string Label, IReadOnlyList<Point> Edge, Point Centre);

/// <summary>
/// A template at true size (PDF) to mark cloth and stabilizer by: the picture of what is sewn, fields with their middles and axes, seams, crosses, the top of the hoop and a rule to check the printer with.
/// What is larger than the paper goes over several sheets, which share a strip with marks to join them by.
/// </summary>
/// <param name="Title">Of the job.</param>
/// <param name="What">What it is for, such as "hooping 1 of 2".</param>
/// <param name="Stitches">What is sewn, in the job's place, mm.</param>
public sealed record TemplateSheet(string Title, string What, StitchFile Stitches)
{
    /// <summary>Length of the check rule, mm.</summary>
    public const float RuleMm = 50;

    private const float MarginMm = 10;
    private const float HeadMm = 13;
    private const float FootMm = 14;
    private const float OverlapMm = 12;
    private const double PicturePixelsPerMm = 6;
    private const double MostPicture = 60e6;
    private static readonly SKColor Mark = new(0xA6, 0x3A, 0x3C);
    private static readonly SKColor Edge = new(0x2F, 0x4B, 0x7C);

    /// <summary>The fields that it shows.</summary>
    public required IReadOnlyList<TemplateField> Fields { get; init; }

    /// <summary>Lines along which hoopings part, mm.</summary>
    public IReadOnlyList<IReadOnlyList<Point>> Seams { get; init; } = [];

    /// <summary>Registration crosses, mm.</summary>
    public IReadOnlyList<Point> Crosses { get; init; } = [];

    /// <summary>Length of a cross, mm.</summary>
    public double CrossMm { get; init; } = 8;

    /// <summary>Left and right exchanged, to mark from the back.</summary>
    public bool Mirrored { get; init; }

    /// <summary>The picture is left out, to save ink.</summary>
    public bool MarksOnly { get; init; }

    /// <summary>The smallest outline about what is sewn, mm.</summary>
    public IReadOnlyList<Point> Outline { get; init; } = [];

    /// <summary>The pages.</summary>
    public byte[] ToPdf(Paper paper)
    {
        var area = Box.Around(Fields.SelectMany(f => f.Edge).Concat(Outline).Select(Placed)).Grown(1);
        var (roomWide, roomHigh) = (paper.Width - (2 * MarginMm), paper.Height - (2 * MarginMm) - HeadMm - FootMm);
        var (columns, rows) = (Sheets(area.Width, roomWide), Sheets(area.Height, roomHigh));
        using var picture = MarksOnly || Stitches.Bounds.IsEmpty ? null : Picture();
        return SheetType.Document($"{Title}, template", paper, (canvas, page) =>
        {
            var (column, row) = ((page - 1) % columns, (page - 1) / columns);
            var (left, top) = (Start(area.MinX, area.Width, roomWide, column, columns), Start(area.MinY, area.Height, roomHigh, row, rows));
            canvas.Save();
            canvas.ClipRect(new(MarginMm, MarginMm + HeadMm, (float)paper.Width - MarginMm, (float)paper.Height - MarginMm - FootMm));
            canvas.Translate(MarginMm - (float)left, MarginMm + HeadMm - (float)top);

            // What lies beyond, such as seams of other hoopings, is not of this template.
            canvas.ClipRect(new((float)area.MinX, (float)area.MinY, (float)area.MaxX, (float)area.MaxY));
            Draw(canvas, picture);
            JoiningMarks(canvas, area, roomWide, roomHigh, columns, rows);
            canvas.Restore();
            Around(canvas, paper, page, columns, rows);
            return page < columns * rows;
        });

        static int Sheets(double length, double room) => length <= room ? 1 : (int)Math.Ceiling((length - OverlapMm) / (room - OverlapMm));
        static double Start(double from, double length, double room, int n, int count) => count == 1 ? from - ((room - length) / 2) : from + (n * (room - OverlapMm));
    }

    /// <summary>A place of the job as it lies on the paper.</summary>
    private Point Placed(Point p) => Mirrored ? new(-p.X, p.Y) : p;

    private SKImage Picture()
    {
        var b = Stitches.Bounds.Grown(2);
        var scale = Math.Min(PicturePixelsPerMm, Math.Sqrt(MostPicture / (b.Width * b.Height)));
        return SKImage.FromEncodedData(ThreadPainter.PictureAt(Stitches, scale, Rgb.FromInt(0xFFFFFF), lines: false));
    }

    private void Draw(SKCanvas canvas, SKImage? picture)
    {
        using var edge = SheetType.Stroke(Edge, 0.35f);
        using var axis = SheetType.Stroke(Edge, 0.15f, 4, 1.5f, 0.6f, 1.5f);
        using var outline = SheetType.Stroke(SheetType.Soft, 0.2f, 1.6f, 1.2f);
        using var seam = SheetType.Stroke(Mark, 0.4f, 3, 1.5f);
        using var mark = SheetType.Stroke(Mark, 0.25f);
        using var font = SheetType.Font(10, bold: true);
        using var small = SheetType.Font(7.5f);
        using var ink = SheetType.Filled(Edge);
        using var paper = SheetType.Filled(SKColors.White);
        if (picture is not null)
        {
            var b = Stitches.Bounds.Grown(2);
            canvas.Save();
            if (Mirrored) canvas.Scale(-1, 1);
            using var pale = new SKPaint { Color = SKColors.White.WithAlpha(150) };
            canvas.DrawImage(picture, new SKRect((float)b.MinX, (float)b.MinY, (float)b.MaxX, (float)b.MaxY), new SKSamplingOptions(SKFilterMode.Linear), pale);
            canvas.Restore();
        }

        Line(canvas, Outline, outline, close: true);
        foreach (var line in Seams) Line(canvas, line, seam, close: false);
        foreach (var field in Fields)
        {
            Line(canvas, field.Edge, edge, close: true);
            var (box, c) = (Box.Around(field.Edge.Select(Placed)), Placed(field.Centre));
            canvas.DrawLine((float)box.MinX, (float)c.Y, (float)box.MaxX, (float)c.Y, axis);
            canvas.DrawLine((float)c.X, (float)box.MinY, (float)c.X, (float)box.MaxY, axis);
            canvas.DrawLine((float)c.X - 10, (float)c.Y, (float)c.X + 10, (float)c.Y, edge);
            canvas.DrawLine((float)c.X, (float)c.Y - 10, (float)c.X, (float)c.Y + 10, edge);
            canvas.DrawCircle((float)c.X, (float)c.Y, 4, edge);

            // The number stands beside the middle, where no line crosses it.
            canvas.DrawCircle((float)c.X + 9, (float)c.Y - 9, 4, paper);
            canvas.DrawCircle((float)c.X + 9, (float)c.Y - 9, 4, edge);
            canvas.DrawText(field.Label, (float)c.X + 9, (float)c.Y - 7.7f, SKTextAlign.Center, font, ink);
            using var arrow = SheetType.Poly([new(c.X, box.MinY + 1.5), new(c.X - 2.5, box.MinY + 6.5), new(c.X + 2.5, box.MinY + 6.5)], close: true);
            canvas.DrawPath(arrow, ink);
            canvas.DrawText("top of the hoop", (float)c.X + 4, (float)box.MinY + 5.5f, SKTextAlign.Left, small, ink);
        }

        foreach (var cross in Crosses.Select(Placed))
        {
            var arm = (float)CrossMm / 2;
            canvas.DrawLine((float)cross.X - arm, (float)cross.Y, (float)cross.X + arm, (float)cross.Y, mark);
            canvas.DrawLine((float)cross.X, (float)cross.Y - arm, (float)cross.X, (float)cross.Y + arm, mark);
            canvas.DrawCircle((float)cross.X, (float)cross.Y, 1.6f, mark);
        }
    }

    private void Line(SKCanvas canvas, IReadOnlyList<Point> points, SKPaint paint, bool close)
    {
        if (points.Count < 2) return;
        using var path = SheetType.Poly(points.Select(Placed), close);
        canvas.DrawPath(path, paint);
    }

    /// <summary>In the middle of each strip that two sheets share, a line to cut along and diamonds to lay on each other; the same on both.</summary>
    private static void JoiningMarks(SKCanvas canvas, Box area, double roomWide, double roomHigh, int columns, int rows)
    {
        using var line = SheetType.Stroke(SheetType.Soft, 0.2f, 1, 1);
        using var fill = SheetType.Filled(SheetType.Soft);
        using var font = SheetType.Font(8, bold: true);
        const double every = 60, half = 3;
        for (var n = 1; n < columns; n++)
        {
            var x = area.MinX + (n * (roomWide - OverlapMm)) + (OverlapMm / 2);
            canvas.DrawLine((float)x, (float)area.MinY, (float)x, (float)area.MaxY, line);
            for (var y = area.MinY + (every / 2); y < area.MaxY; y += every) Diamond(new(x, y), $"{(char)('A' + ((n - 1) % 26))}");
        }

        for (var n = 1; n < rows; n++)
        {
            var y = area.MinY + (n * (roomHigh - OverlapMm)) + (OverlapMm / 2);
            canvas.DrawLine((float)area.MinX, (float)y, (float)area.MaxX, (float)y, line);
            for (var x = area.MinX + (every / 2); x < area.MaxX; x += every) Diamond(new(x, y), $"{n}");
        }

        void Diamond(Point at, string label)
        {
            using var path = SheetType.Poly([new(at.X - half, at.Y), new(at.X, at.Y - half), new(at.X + half, at.Y), new(at.X, at.Y + half)], close: true);
            using var edge = SheetType.Stroke(SheetType.Soft, 0.3f);
            canvas.DrawPath(path, edge);
            canvas.DrawText(label, (float)(at.X + half + 1), (float)at.Y - 1, SKTextAlign.Left, font, fill);
        }
    }

    /// <summary>Head and foot: what it is, which sheet, and the rule.</summary>
    private void Around(SKCanvas canvas, Paper paper, int page, int columns, int rows)
    {
        using var title = SheetType.Font(13, bold: true);
        using var text = SheetType.Font(8.5f);
        using var ink = SheetType.Filled(SheetType.Ink);
        using var soft = SheetType.Filled(SheetType.Soft);
        using var rule = SheetType.Stroke(SheetType.Ink, 0.3f);
        var (right, bottom) = ((float)paper.Width - MarginMm, (float)paper.Height - MarginMm);
        var sheet = columns * rows == 1 ? string.Empty : $"sheet {page} of {columns * rows}" + (columns > 1 && rows > 1 ? $", row {((page - 1) / columns) + 1}, column {((page - 1) % columns) + 1}" : string.Empty);
        canvas.DrawText(SheetType.Cut(Title, title, right - MarginMm - 60), MarginMm, MarginMm + 5, SKTextAlign.Left, title, ink);
        canvas.DrawText(sheet, right, MarginMm + 5, SKTextAlign.Right, text, ink);
        canvas.DrawText(What + (Mirrored ? ", mirrored: to mark from the back" : string.Empty), MarginMm, MarginMm + 10, SKTextAlign.Left, text, soft);
        canvas.DrawLine(MarginMm, bottom - 4, MarginMm + RuleMm, bottom - 4, rule);
        for (var mm = 0; mm <= RuleMm; mm += 10) canvas.DrawLine(MarginMm + mm, bottom - (mm % 50 == 0 ? 7 : 5.5f), MarginMm + mm, bottom - 4, rule);
        canvas.DrawText("50 mm", MarginMm + RuleMm + 2, bottom - 4, SKTextAlign.Left, text, ink);
        canvas.DrawText("Print at 100 %, not fitted to the page, and measure this rule first." + (columns * rows > 1 ? " Cut along the dotted lines and lay equal diamonds on each other." : string.Empty), MarginMm, bottom, SKTextAlign.Left, text, soft);
    }
}
