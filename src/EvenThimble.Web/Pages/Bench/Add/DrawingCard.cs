using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>A vector drawing that waits to be brought in, until the user has said what its shapes become.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="Token">By what it is taken up again.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Drawing">What was read.</param>
public sealed record DrawingCard(BenchView Bench, string Token, string Name, SvgDrawing Drawing)
{
    /// <summary>Drawings of the demo scenario that can be tried.</summary>
    public static readonly (string File, string Name)[] Samples = [("telescope-sketch.svg", "Telescope sketch"), ("star-chart-frame.svg", "Star chart frame")];

    /// <summary>What is drawn here is sewn in a thread like this unless another is selected.</summary>
    public static readonly Rgb UsualThreadLook = Rgb.FromInt(0x2F4B7C);

    private const int LargestDrawing = 16 << 20;

    /// <summary>Reads a drawing and asks what its shapes become.</summary>
    public static async Task<IActionResult> LayAsync(BenchView bench, PartRequest request)
    {
        bench = bench.In(BenchRegistry.Tasks.OfType<AddTask>().Single());
        try
        {
            var form = await request.Http.ReadFormAsync(bench.Cancel);
            if (Samples.FirstOrDefault(s => s.File == form["sample"]) is { File: not null } known)
                return Laid(bench, request, known.Name, await File.ReadAllBytesAsync(Path.Combine(bench.Get<IWebHostEnvironment>().WebRootPath, "drawings", known.File), bench.Cancel));
            if (form.Files.GetFile("file") is not { } file) throw new EditRefusedException("No file came with the request. Choose one and try again.");
            if (file.Length > LargestDrawing) throw new EditRefusedException($"The drawing is larger than {LargestDrawing >> 20} MB. Simplify it, or bring it in by parts.");
            using var bytes = new MemoryStream();
            await file.CopyToAsync(bytes, bench.Cancel);
            return Laid(bench, request, Titles.Clean(Path.GetFileNameWithoutExtension(file.FileName.Split('/', '\\')[^1]).Replace('-', ' ').Replace('_', ' ')), bytes.ToArray());
        }
        catch (Exception e) when (Refusals.Of(e) is { } refusal)
        {
            return request.Answer(bench, refusal.Sentence, refusal.Status);
        }
    }

    /// <summary>Brings a drawing in at a width, each shape as chosen.</summary>
    public static AddShapes Brought(BenchView bench, string? token, string? width, string[] become)
    {
        if (bench.Get<DrawingTray>().Find(token) is not { } laid) throw new EditRefusedException("That drawing was laid aside too long ago. Choose the file again.");
        var wide = bench.Typed(width);
        if (wide is < ShapeRules.SmallestMm or > ShapeRules.LargestMm) throw new EditRefusedException("That is not a width. Type millimetres, such as 90.");
        var shapes = laid.Drawing.AtWidth(wide).Shapes.Select((s, i) => (Shape: s, Becomes: become.ElementAtOrDefault(i) ?? Suggested(s)))
            .Where(s => s.Becomes != "left out")
            .Select(s =>
            {
                // Each shape turns about its own middle, and so lies about it.
                var middle = s.Shape.Shape.Bounds.Middle;
                return new NewShape(s.Shape.Name, s.Shape.Shape.Moved(p => p - middle), SettingsFor(s.Shape, s.Becomes), Nearest(bench, s.Shape.Colour), new(Math.Round(middle.X, 6), Math.Round(middle.Y, 6), 0));
            })
            .ToImmutableArray();
        if (shapes.IsEmpty) throw new EditRefusedException("Every shape is left out, so there is nothing to bring in.");
        return new(laid.Name.Length > 0 ? laid.Name : "drawing", shapes);
    }

    /// <summary>What a shape of a drawing would become: the widest satin decides.</summary>
    public static string Suggested(SvgShape shape)
    {
        if (shape.LineWidth is { } width) return width >= Limits.NarrowestSatin ? "satin" : "run";
        return Area.Of(shape.Shape.Paths.Select(p => p.Flattened()), shape.Shape.Rule).Any(a => !a.Grown(-Limits.LongestThrow / 2).IsEmpty) ? "fill" : "satin";
    }

    /// <summary>The thread of the first chart that looks most like a colour.</summary>
    public static SewingThread Nearest(BenchView bench, Rgb look) => ThreadSearch.ByLook(bench.Get<ThreadStore>().Charts[0].Threads, look, 1)[0].Thread;

    private static IActionResult Laid(BenchView bench, PartRequest request, string name, byte[] bytes)
    {
        var drawing = SvgDrawing.Read(bytes);
        return request.Answer(bench, card: new AddCard(bench, new(bench, bench.Get<DrawingTray>().Lay(name, drawing), name, drawing)));
    }

    private static StitchSettings SettingsFor(SvgShape shape, string becomes) => becomes switch
    {
        "fill" => new(shape.Shape.IsClosed ? StitchWay.Fill : StitchWay.Run),
        "satin" when shape.LineWidth is { } width => new(StitchWay.LineSatin) { WidthMm = Math.Clamp(Math.Round(width, 2), SettingRange.Width.Least, SettingRange.Width.Most) },
        "satin" => new(StitchWay.Satin),
        _ => new(StitchWay.Run),
    };
}
