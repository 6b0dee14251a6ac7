using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Jobs;
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

    /// <summary>Reads a drawing and asks what its shapes become.</summary>
    public static async Task<IActionResult> LayAsync(BenchView bench, PartRequest request)
    {
        bench = bench.In(BenchRegistry.Tasks.OfType<AddTask>().Single());
        try
        {
            var form = request.Http.SentForm();
            if (Samples.FirstOrDefault(s => s.File == form["sample"]) is { File: not null } known)
                return Laid(bench, request, known.Name, await File.ReadAllBytesAsync(Path.Combine(bench.Get<IWebHostEnvironment>().WebRootPath, "drawings", known.File), bench.Cancel));
            if (form.Files.GetFile("file") is not { } file) throw new EditRefusedException("No file came with the request. Choose one and try again.");
            if (file.Length > SvgDrawing.LargestFile) throw new EditRefusedException($"The drawing is larger than {SvgDrawing.LargestFile >> 20} MB. Simplify it, or bring it in by parts.");
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
        return BroughtDrawing.Of(laid.Name, laid.Drawing, bench.Typed(width), i => become.ElementAtOrDefault(i), bench.Get<ThreadStore>().Charts[0].Threads);
    }

    /// <summary>The thread of the first chart that looks most like a colour.</summary>
    public static SewingThread Nearest(BenchView bench, Rgb look) => ThreadSearch.ByLook(bench.Get<ThreadStore>().Charts[0].Threads, look, 1)[0].Thread;

    private static IActionResult Laid(BenchView bench, PartRequest request, string name, byte[] bytes)
    {
        var drawing = SvgDrawing.Read(bytes);
        return request.Answer(bench, card: new AddCard(bench, new(bench, bench.Get<DrawingTray>().Lay(name, drawing), name, drawing)));
    }
}
