using System.Collections.Immutable;
using System.Net;
using System.Text;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Cutting;
using EvenThimble.Core.Threads;
using EvenThimble.Equipment;
using EvenThimble.Rendering.Fonts;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;
using Shouldly;
using SkiaSharp;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Core;
using Xunit;

namespace EvenThimble.App.Tests.Cutting;

/// <summary>Cut files over real HTTP, each read by a reader that is not the program's; what cannot be cut is told; cutters tell why they do not list a file.</summary>
public class CutHttpTests() : BenchOverHttp(2)
{
    private const double PointsPerMm = 72 / 25.4;

    private CutJob Cut => Server.Services.GetRequiredService<CutDesk>().Of(Server.Services.GetRequiredService<JobDesk>().Find(2)!);

    [Fact]
    public async Task Every_kind_of_file_holds_the_same_outlines_at_the_same_size()
    {
        // The shapes of the sampler, three of each on the mat of the cutter that takes pictures.
        var shapes = Job.Order.Where(p => p.Drawn is { Shape.IsClosed: true }).Take(6).Select(p => p.Id.Value).ToList();
        foreach (var part in shapes) (await Post("cut-part", ("part", $"{part}"), ("cut", "true"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Post("allowance", ("allowance", "1.5"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Post("Lay", "/jobs/2/cut", ("cutter", "dunlin-mini"), ("copies", "3"), ("gap", "4"), ("turning", "QuarterTurns"), ("faceDown", "true"), ("testSquare", "true"))).StatusCode.ShouldBe(HttpStatusCode.Found);
        var layout = Cut.LaidOn(210, 297);
        layout.Findings.ShouldBeEmpty();
        var file = CutFile.Of(layout.Sheets[0], "x");
        var wanted = file.Lines.Select(l => Box.Around(l)).ToList();
        wanted.Count.ShouldBeGreaterThan(10);

        Same(wanted, CutFileReaders.Svg(await Bytes("svg")).Lines.Select(Box.Around));
        Same(wanted, CutFileReaders.Dxf(await Bytes("dxf")).Select(Box.Around));
        Same(wanted, CutFileReaders.Plotter(await Bytes("plt"), 297).Select(Box.Around));
        Same(wanted, Pdf(await Bytes("pdf")).Select(Box.Around), shifted: true);
        var onPaper = Pdf(await Bytes("pdf"));
        var by = new Point(onPaper.Min(l => l.Min(p => p.X)) - file.Bounds.MinX, onPaper.Min(l => l.Min(p => p.Y)) - file.Bounds.MinY);
        foreach (var line in file.Lines) onPaper.Min(l => line.Max(p => l.Min(q => q.DistanceTo(p + by)))).ShouldBeLessThan(0.05);

        // The picture: 300 dots an inch, told in the file; as much black as the pieces are large, and nothing outside them.
        var png = await Bytes("png");
        var (across, down, width, height) = CutPicture.SizeOf(png);
        width.ShouldBe(210, 0.1);
        height.ShouldBe(297, 0.1);
        using var picture = SKBitmap.Decode(png);
        (picture.Width, picture.Height).ShouldBe((across, down));
        var (black, box) = (0, Box.Empty);
        for (var y = 0; y < down; y++)
            for (var x = 0; x < across; x++)
                if (picture.GetPixel(x, y).Red < 128)
                    (black, box) = (black + 1, box.With(new Point(x + 0.5, y + 0.5) * (25.4 / 300)));
        (black * 25.4 * 25.4 / 90000).ShouldBe(layout.Sheets[0].Pieces.Sum(p => p.Piece.SquareMm), layout.Sheets[0].Pieces.Sum(p => p.Piece.SquareMm) * 0.004);
        Off(box, file.Bounds).ShouldBeLessThan(0.1);
    }

    [Fact]
    public async Task What_cannot_be_cut_is_told_in_a_sentence_and_changes_nothing()
    {
        var version = Server.Services.GetRequiredService<JobStore>().VersionOf(2);
        (await Http.GetAsync("/jobs/2/cut/svg")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await (await Http.GetAsync("/jobs/2/cut/svg")).Content.ReadAsStringAsync()).ShouldContain("Nothing is chosen to be cut");
        (await Http.GetAsync("/jobs/2/cut/doc")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Http.GetAsync("/jobs/99/cut")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        foreach (var (command, values) in new (string, (string, string)[])[]
        {
            ("allowance", [("allowance", "wide")]), ("allowance", [("allowance", "200")]), ("cut-line", [("part", "1"), ("line", "9"), ("dropped", "true")]), ("bridge", [("part", "1"), ("line", "0"), ("places", "1,1 x")]),
            ("cut-part", [("part", "9999"), ("cut", "true")]), ("cut-lines", []), ("applique", [("parts", "1"), ("cover", "3"), ("tackDown", "Zigzag")]), ("suggested-roles", []), ("stop-after", [("parts", "1"), ("message", new string('ü', 90))]),
        })
            (await Post(command, values)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, command);
        (await Post("Lay", "/jobs/2/cut", ("copies", "many"), ("gap", "4"), ("turning", "Never"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Post("Lay", "/jobs/2/cut", ("copies", "2"), ("gap", "-1"), ("turning", "Never"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Post("Move", "/jobs/2/cut", ("part", "1"), ("line", "0"), ("copy", "0"), ("sheet", "0"), ("x", "1e9"), ("y", "0"), ("turn", "0"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Post("HandOver", "/jobs/2/cut", ("name", "x"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Post("HandOver", "/jobs/2/cut", ("cutters", "plover-12"), ("name", "x"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        Server.Services.GetRequiredService<JobStore>().VersionOf(2).ShouldBe(version);
    }

    [Fact]
    public void Cutters_list_what_they_can_cut_and_tell_why_not()
    {
        var (plover, dunlin) = (new Cutter(StandInCutters.Plover12, Drawer()), new Cutter(StandInCutters.DunlinMini, Drawer()));
        ImmutableArray<Point> Square(double side) => [new(5, 5), new(5 + side, 5), new(5 + side, 5 + side), new(5, 5 + side)];
        CutFile Of(double side) => new("squares", 400, 400, [new("Cloth", [Square(side)])]);
        string Svg(string inner, string size = "width='100mm' height='100mm' viewBox='0 0 100 100'") => $"<svg xmlns='http://www.w3.org/2000/svg' {size}>{inner}</svg>";
        void Says(Cutter cutter, string name, byte[] bytes, string why)
        {
            var listing = cutter.Look(name, bytes.Length, () => bytes);
            listing.Listed.ShouldBe(why.Length == 0, listing.Why);
            (listing.Why ?? string.Empty).ShouldContain(why);
        }

        Says(plover, "a.svg", CutFormats.Write(CutFileKind.Svg, Of(40)), "");
        Says(plover, "a.dxf", CutFormats.Write(CutFileKind.Dxf, Of(40)), "");
        Says(dunlin, "a.plt", CutFormats.Write(CutFileKind.Plotter, Of(40)), "");
        Says(plover, "a.plt", [1], "only looks at files that end in .svg or .dxf");
        Says(plover, "large.svg", CutFormats.Write(CutFileKind.Svg, Of(330)), "reach over the mat of 300 × 300");
        Says(plover, "open.svg", Encoding.UTF8.GetBytes(Svg("<path d='M1 1L9 9' stroke='red' fill='none'/>")), "not closed");
        Says(plover, "no-size.svg", Encoding.UTF8.GetBytes(Svg("<rect width='9' height='9'/>", "viewBox='0 0 9 9'")), "does not tell its size");
        Says(plover, "elsewhere.svg", Encoding.UTF8.GetBytes(Svg("<g transform='translate(10 10)'><circle cx='20' cy='20' r='15' fill='none' stroke='#000'/><path d='M50 50h20v20h-20z' fill='none' stroke='#f00'/></g>")), "");
        Says(plover, "damaged.dxf", Encoding.ASCII.GetBytes("0\nSECTION\n2\nENT"), "cut short");
        Says(dunlin, "no.png", [1, 2, 3], "no PNG");
        using var plain = new SKBitmap(300, 300);
        Says(dunlin, "unknown.png", plain.Encode(SKEncodedImageFormat.Png, 90).ToArray(), "its size cannot be known");
        Says(dunlin, "known.png", CutPicture.WithDensity(plain.Encode(SKEncodedImageFormat.Png, 90).ToArray()), "");
        plover.Look("elsewhere.svg", 10, () => Encoding.UTF8.GetBytes(Svg("<circle cx='20' cy='20' r='15' fill='none' stroke='#000'/>"))).Shows.ShouldContain("30 × 30 mm");

        static FileDrawer Drawer() => new(Directory.CreateTempSubdirectory("thimble-cutter-").FullName);
    }

    [Fact]
    public void Letters_are_cut_with_their_windows_and_become_an_applique()
    {
        var face = new LetterFace("Archivo", InstalledFonts.Open(InstalledFonts.Find("Archivo")!));
        var job = new AddLettering(LetteringContent.Lay(new("BOA") { CapitalMm = 60 }, face, new(StitchWay.Satin, MadeUpCharts.All[0].Threads[3]), null), Placement.AsItCame).Apply(Core.Jobs.Job.New(StandInMachines.Catalogue.UsualHoop));
        job = new ChooseCutLines([.. job.Order.Select(p => p.Id)]).Apply(job);
        var cut = new CutJob(job, Sequencer.Plan(job, new Nothing()));
        cut.Pieces.All.Select(p => (p.Name[..1], p.Rings.Length - 1)).ShouldBe([("B", 2), ("O", 1), ("A", 1)]);
        cut.Findings.Where(f => f.Serious).ShouldBeEmpty();
        cut.Pieces.All[0].Bounds.Height.ShouldBe(62, 1);
        var made = new MakeApplique(job.Order.Select(p => p.Id).ToHashSet(), new(TackDownWay.TripleRun, 3, CutBefore: false)).Apply(job);
        made.Order.Count.ShouldBe(9);
        made.Order.Count(p => p.Role == PartRole.Cover).ShouldBe(3);
        Sequencer.Plan(made, new Nothing()).Records.CountOf(StitchKind.Stop).ShouldBe(6);
    }

    private async Task<byte[]> Bytes(string kind)
    {
        var answer = await Http.GetAsync($"/jobs/2/cut/{kind}");
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, kind);
        answer.Content.Headers.ContentDisposition!.FileNameStar.ShouldEndWith(kind);
        return await answer.Content.ReadAsByteArrayAsync();
    }

    /// <summary>The paths of the first page at true size, mm from its far left corner.</summary>
    private static List<List<Point>> Pdf(byte[] bytes)
    {
        using var pdf = PdfDocument.Open(bytes);
        pdf.GetPage(pdf.NumberOfPages).Text.ShouldContain("Print at 100 %");
        var page = pdf.GetPage(1);
        return
        [
            .. page.Paths.SelectMany(p => p).Where(s => s.Commands.Count > 3)
                .Select(path => path.Commands.SelectMany(c => c switch { PdfSubpath.Move m => [m.Location], PdfSubpath.Line l => [l.From, l.To], _ => Array.Empty<PdfPoint>() }).Select(p => new Point(p.X / PointsPerMm, (page.Height - p.Y) / PointsPerMm)).ToList()),
        ];
    }

    private static void Same(List<Box> wanted, IEnumerable<Box> read, bool shifted = false)
    {
        var all = read.ToList();
        if (shifted)
        {
            var by = new Point(all.Min(b => b.MinX) - wanted.Min(b => b.MinX), all.Min(b => b.MinY) - wanted.Min(b => b.MinY));
            all = all.ConvertAll(b => new Box(b.MinX - by.X, b.MinY - by.Y, b.MaxX - by.X, b.MaxY - by.Y));
        }

        foreach (var box in wanted) all.Min(b => Off(b, box)).ShouldBeLessThan(0.05);
        if (!shifted) all.Count.ShouldBe(wanted.Count);
    }

    private static double Off(Box a, Box b) => new[] { a.MinX - b.MinX, a.MinY - b.MinY, a.MaxX - b.MaxX, a.MaxY - b.MaxY }.Max(Math.Abs);

    private sealed class Nothing : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => throw new KeyNotFoundException();
    }
}
