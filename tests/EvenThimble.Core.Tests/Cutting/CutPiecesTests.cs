using System.Collections.Immutable;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Tests.Cutting;

/// <summary>Pieces, sheets and files of cut lines, measured by code of the tests alone.</summary>
public class CutPiecesTests
{
    private static readonly SewingThread Thread = MadeUpCharts.All[0].Threads[0];

    public static TheoryData<string> Shapes => [.. CutShapes.All.Select(s => s.Name)];

    [Theory]
    [MemberData(nameof(Shapes))]
    public void The_cut_line_lies_outside_the_stitch_line_by_the_allowance_at_a_thousand_points(string name)
    {
        var stitched = SewnLines.Run(CutShapes.All.First(s => s.Name == name).Ring, 2.2);
        foreach (var allowance in new[] { 1.0, 1.5 })
        {
            var cut = Cut(allowance, stitched);
            cut.Findings.Where(f => f.Serious).ShouldBeEmpty();
            var piece = cut.Pieces.All.ShouldHaveSingleItem();
            foreach (var p in Polylines.Divided([.. piece.Rings[0], piece.Rings[0][0]], 1000)) OutlineTests.Nearest(p, stitched).ShouldBe(allowance, 0.05);
            Area.Of([piece.Rings[0]])[0].SquareMm.ShouldBeGreaterThan(Area.Of([stitched])[0].SquareMm);
        }
    }

    [Theory]
    [InlineData("five-pointed star")]
    [InlineData("flower")]
    [InlineData("comb")]
    public void Windows_shrink_by_as_much_as_the_outer_edge_grows(string outer)
    {
        var ring = CutShapes.All.First(s => s.Name == outer).Ring;
        var place = Area.Of([ring])[0].InnerPlace;
        Point[] window = [.. Enumerable.Range(0, 6).Select(i => place + (new Point(Math.Cos(i), Math.Sin(i)) * 2.2))];
        var piece = Cut(1, SewnLines.Run(ring, 2.4), SewnLines.Run(window, 1.5)).Pieces.All.ShouldHaveSingleItem();
        piece.Rings.Length.ShouldBe(2);
        foreach (var p in Polylines.Divided([.. piece.Rings[1], piece.Rings[1][0]], 300)) OutlineTests.Nearest(p, window).ShouldBe(1, 0.05);
        Area.Of([window])[0].SquareMm.ShouldBeGreaterThan(Area.Of([piece.Rings[1]])[0].SquareMm);
    }

    [Fact]
    public void A_line_within_another_can_be_a_piece_by_itself()
    {
        var (square, inner) = (SewnLines.Run(Ring(0, 0, 40), 2.4), SewnLines.Run(Ring(0, 0, 12), 2));
        var cut = Cut(job => job with { Cutting = job.Cutting.With(new CutChange(new(job.Order[1].Id, 0)) { OwnPiece = true, Material = "Felt" }) }, 1, square, inner);
        cut.Pieces.All.Select(p => (p.Rings.Length, p.Material)).ShouldBe([(1, CutPieces.UsualMaterial), (1, "Felt")]);
        cut.Pieces.All[1].Bounds.Width.ShouldBe(14, 0.05);
    }

    [Fact]
    public void What_cannot_be_cut_is_told()
    {
        Point[] open = SewnLines.Run(Ring(0, 0, 40), 2.4)[..^15];
        Cut(1, open).Findings.ShouldContain(f => f.Serious && f.Says.Contains("does not close"));
        Cut(1, open).Pieces.All.ShouldBeEmpty();
        Cut(1, SewnLines.Run(Ring(0, 0, 40), 2.4), SewnLines.Run(Ring(30, 0, 40), 2.4)).Findings.ShouldContain(f => f.Serious && f.Says.Contains("cross"));
        Cut(4, SewnLines.Run(Ring(0, 0, 40), 2.4), SewnLines.Run(Ring(0, 0, 7), 1.7)).Findings.ShouldContain(f => f.Serious && f.Says.Contains("closes up"));
        Cut(2, SewnLines.Run(Ring(0, 0, 20), 2.4), SewnLines.Run(Ring(22, 0, 20), 2.4)).Findings.ShouldContain(f => f.Says.Contains("2 mm apart"));
        Cut(job => job with { Cutting = JobCutting.None }, 1, SewnLines.Run(Ring(0, 0, 20), 2.4)).Findings.ShouldHaveSingleItem().Says.ShouldBe("Nothing is chosen to be cut.");
        Should.Throw<Core.Text.EditRefusedException>(() => new SetAllowance(-1).Apply(Job(Ring(0, 0, 20)).Job));
        Should.Throw<Core.Text.EditRefusedException>(() => new SetAllowance(double.NaN).Apply(Job(Ring(0, 0, 20)).Job));
    }

    [Fact]
    public void The_same_edge_in_two_parts_is_cut_once()
    {
        var ring = CutShapes.All.First(s => s.Name == "heart").Ring;
        var cut = Cut(1, SewnLines.Run(ring, 2.4), SewnLines.Zigzag(ring, 2, 2), SewnLines.Zigzag(ring, 3.4, 0.4));
        cut.Pieces.All.ShouldHaveSingleItem();
        cut.Lines.All.Count(l => l.SameAs is not null).ShouldBe(2);
    }

    [Fact]
    public void An_open_line_can_be_joined_and_a_wrong_stretch_bridged()
    {
        var run = SewnLines.Run(Ring(0, 0, 40), 2);
        var joined = Cut(job => job with { Cutting = job.Cutting.With(new CutChange(new(job.Order[0].Id, 0)) { Joined = true }) }, 0, run[..^15]);
        joined.Pieces.All.ShouldHaveSingleItem().Rings.ShouldHaveSingleItem();

        // A spike of 10 mm stands out of the top edge, a quarter of the way round; what lies between its feet is bridged.
        Point[] spiked = [new(0, 0), new(20, 0), new(19, -10), new(23, -10), new(22, 0), new(40, 0), new(40, 40), new(0, 40)];
        var length = Polylines.Length([.. spiked, spiked[0]]);
        var to = (20 + spiked[1].DistanceTo(spiked[2]) + 4 + spiked[3].DistanceTo(spiked[4])) / length;
        var bridged = Cut(job => job with { Cutting = job.Cutting.With(new CutChange(new(job.Order[0].Id, 0)) { Bridged = [new(20 / length, to)] }) }, 0, SewnLines.Run(spiked, 2));
        bridged.Pieces.All.ShouldHaveSingleItem().Bounds.MinY.ShouldBe(0, 0.1);
    }

    [Fact]
    public void Pieces_lie_on_the_mat_with_their_gap_as_many_as_are_wanted()
    {
        var shapes = CutShapes.All.Where(s => s.Name is "crescent" or "five-pointed star" or "comb" or "small circle").Select(s => SewnLines.Run(s.Ring, 2.4)).ToArray();
        var cut = Cut(job => job with { Copies = 7, Cutting = job.Cutting with { Turning = CutTurning.QuarterTurns, FaceDown = true, TestSquare = true } }, 1, [.. shapes.Select((s, n) => s.Select(p => p + new Point(200 * n, 0)).ToArray())]);
        var layout = cut.LaidOn(300, 300);
        layout.Findings.ShouldBeEmpty();
        layout.Sheets.SelectMany(s => s.Pieces).GroupBy(p => p.Piece.Name).Select(g => g.Count()).Order().ShouldBe([1, 7, 7, 7, 7]);
        foreach (var sheet in layout.Sheets)
        {
            sheet.Used.MinX.ShouldBeGreaterThanOrEqualTo(0);
            sheet.Used.MaxX.ShouldBeLessThanOrEqualTo(300);
            sheet.Used.MinY.ShouldBeGreaterThanOrEqualTo(0);
            sheet.Used.MaxY.ShouldBeLessThanOrEqualTo(300);
            for (var i = 0; i < sheet.Pieces.Length; i++)
                for (var k = i + 1; k < sheet.Pieces.Length; k++)
                    LineDistance.Between([Closed(sheet.Pieces[i])], [Closed(sheet.Pieces[k])]).ShouldBeGreaterThanOrEqualTo(JobCutting.UsualGap - 0.02);
        }

        // Face down is mirrored: the area that a ring winds around has the other sign than where it lies in the job.
        foreach (var laid in layout.Sheets[0].Pieces.Where(p => p.Piece.Key != CutLayout.SquareKey)) Polylines.IsClockwise(laid.Rings[0]).ShouldBe(!Polylines.IsClockwise(laid.Piece.Rings[0]));
    }

    [Fact]
    public void What_is_larger_than_the_mat_is_told_and_the_rest_is_laid()
    {
        var layout = Cut(1, SewnLines.Run(Ring(0, 0, 250), 2.4), SewnLines.Run(Ring(400, 0, 30), 2.4)).LaidOn(210, 297);
        layout.Sheets.ShouldHaveSingleItem().Pieces.ShouldHaveSingleItem();
        layout.Findings.ShouldHaveSingleItem().Says.ShouldContain("there is room for 206");
    }

    [Fact]
    public void Every_file_of_lines_gives_readers_of_the_tests_the_same_outlines()
    {
        var layout = Cut(job => job with { Copies = 2 }, 1.5, [.. CutShapes.All.Take(9).Select((s, n) => SewnLines.Run([.. s.Ring.Select(p => p + new Point(300 * n, 0))], 2.4))]).LaidOn(300, 300);
        layout.Sheets.Length.ShouldBeGreaterThan(1);
        foreach (var file in layout.Sheets.Select(s => CutFile.Of(s, "Larkmoor, moons & stars <1>")))
        {
            var (width, height, svg) = CutFileReaders.Svg(CutFormats.Write(CutFileKind.Svg, file));
            (width, height).ShouldBe((300.0, 300.0));
            IsSame(file, svg);
            IsSame(file, CutFileReaders.Dxf(CutFormats.Write(CutFileKind.Dxf, file)));
            IsSame(file, CutFileReaders.Plotter(CutFormats.Write(CutFileKind.Plotter, file), file.Height));
        }
    }

    [Theory]
    [InlineData("IN;SP1;PU0,0;PD400,0,400,400;PU;SP0;")]
    [InlineData("IN;SC0,100,0,100;PU0,0;PD4,0,4,4,0,0;")]
    [InlineData("IN;PU0,0;PD4,0,4;")]
    [InlineData("\0\u0001\u0002")]
    public void A_plotter_file_that_cannot_be_cut_is_refused_in_words(string text) =>
        Should.Throw<Core.Text.StitchFileException>(() => CutFormats.Of(CutFileKind.Plotter)!.Read(System.Text.Encoding.Latin1.GetBytes(text), "x")).Message.ShouldEndWith(".");

    [Theory]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nPOLYLINE\n8\n0\n70\n0\n0\nVERTEX\n10\n1\n20\n1\n0\nSEQEND\n0\nENDSEC\n0\nEOF\n")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\n10\n1\n20\n1\n0\nENDSEC\n0\nEOF\n")]
    [InlineData("0\nSECTION\n2\nENTI")]
    [InlineData("not a drawing")]
    public void A_technical_drawing_that_cannot_be_cut_is_refused_in_words(string text) =>
        Should.Throw<Core.Text.StitchFileException>(() => CutFormats.Of(CutFileKind.Dxf)!.Read(System.Text.Encoding.Latin1.GetBytes(text), "x")).Message.ShouldEndWith(".");

    [Fact]
    public void Inner_lines_are_cut_before_the_outer_ones_that_hold_them()
    {
        ImmutableArray<Point> Square(double at, double side) => [new(at, at), new(at + side, at), new(at + side, at + side), new(at, at + side)];
        var run = CutRun.Of(new("x", 100, 100, [new("Cloth", [Square(0, 50), Square(10, 10), Square(60, 20), Square(12, 4)])]));
        run.Steps.Select(s => s.LengthMm).ShouldBe([16, 40, 200, 80]);
        run.LengthMm.ShouldBe(336, 1e-9);
    }

    internal static (Job Job, Held Stitches) Job(params Point[][] threads)
    {
        var (builder, parts) = (new StitchBuilder(), new List<StitchFilePart>());
        for (var n = 0; n < threads.Length; n++)
        {
            var first = builder.Count;
            builder.Jump(threads[n][0]);
            foreach (var p in threads[n]) builder.Stitch(p);
            builder.Trim();
            parts.Add(new(first, builder.Count - first, MadeUpCharts.All[0].Threads[n % 30], PartRole.Decoration));
        }

        var file = new StitchFile("cut", builder.ToBlob(), [.. parts]);
        var job = Core.Jobs.Job.FromDesign(null, file, StandInMachines.Catalogue.UsualHoop);
        return (new ChooseCutLines([.. job.Order.Select(p => p.Id)]).Apply(job), new(file.Stitches));
    }

    private static CutJob Cut(double allowance, params Point[][] threads) => Cut(j => j, allowance, threads);

    private static CutJob Cut(Func<Job, Job> change, double allowance, params Point[][] threads)
    {
        var (job, stitches) = Job(threads);
        job = change(new SetAllowance(allowance).Apply(job));
        JobRules.Check(job);
        return new(job, Sequencer.Whole(job, stitches));
    }

    private static void IsSame(CutFile file, List<List<Point>> read)
    {
        var wanted = file.Lines.ToList();
        read.Count.ShouldBe(wanted.Count);
        for (var n = 0; n < wanted.Count; n++)
        {
            read[n].Count.ShouldBe(wanted[n].Length);
            for (var i = 0; i < wanted[n].Length; i++) read[n][i].DistanceTo(wanted[n][i]).ShouldBeLessThan(0.05);
        }
    }

    private static IReadOnlyList<Point> Closed(LaidPiece laid) => [.. laid.Rings[0], laid.Rings[0][0]];

    private static Point[] Ring(double x, double y, double side) => [new(x - (side / 2), y - (side / 2)), new(x + (side / 2), y - (side / 2)), new(x + (side / 2), y + (side / 2)), new(x - (side / 2), y + (side / 2))];

    internal sealed class Held(StitchBlob blob) : IStitchSource
    {
        public StitchBlob Get(BlobHash hash) => hash == blob.Hash ? blob : throw new KeyNotFoundException();
    }
}
