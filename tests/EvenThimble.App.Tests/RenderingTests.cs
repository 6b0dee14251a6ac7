using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;
using EvenThimble.Scenario;
using SkiaSharp;

namespace EvenThimble.App.Tests;

public class RenderingTests
{
    private static readonly Rgb Cloth = Rgb.FromInt(0xE9E1D2);

    [Fact]
    public void A_picture_shows_the_threads_colours_on_the_cloth()
    {
        var design = DemoDesigns.All[2].Drawn();
        using var picture = SKBitmap.Decode(ThreadPainter.Picture(design, 480, 360, Cloth));
        (picture.Width, picture.Height).ShouldBe((480, 360));
        var cloth = Lab.From(Cloth);
        ColourDifference.Ciede2000(At(picture, 4, 4), cloth).ShouldBeLessThan(4);
        foreach (var thread in design.Threads) Nearest(picture, thread.Colour).ShouldBeLessThan(6, thread.Label);
    }

    [Fact]
    public void A_dense_fill_lets_no_cloth_through()
    {
        var builder = new StitchBuilder();
        for (var row = 0; row < 100; row++)
            for (var k = 0; k <= 10; k++)
                builder.Stitch(new((row % 2 == 0 ? k : 10 - k) * 4, row * 0.4));
        var thread = new SewingThread("F", "1", "Tarn", Rgb.FromInt(0x2F4B7C));
        using var picture = SKBitmap.Decode(ThreadPainter.Picture(new("Fill", builder.ToBlob(), [new(0, builder.Count, thread, PartRole.Decoration)]), 300, 300, Rgb.FromInt(0xFFFFFF)));
        for (var x = 60; x < 240; x += 3)
            for (var y = 60; y < 240; y += 3)
                At(picture, x, y).L.ShouldBeLessThan(65, $"at {x}, {y}");
    }

    [Fact]
    public void Thread_shines_by_its_direction()
    {
        var sheens = Enumerable.Range(0, 12).Select(i => ThreadPainter.Sheen(Math.Cos(i * Math.PI / 12), Math.Sin(i * Math.PI / 12))).ToList();
        sheens.Min().ShouldBeGreaterThan(0.6);
        (sheens.Max() - sheens.Min()).ShouldBeGreaterThan(0.3);
        ThreadPainter.Sheen(1, 2).ShouldBe(ThreadPainter.Sheen(-1, -2), 1e-12);
    }

    [Fact]
    public void The_density_picture_has_a_pixel_a_square_millimetre_and_is_clear_where_no_thread_lies()
    {
        var builder = new StitchBuilder();
        builder.Stitch(new(0.5, 0.5));
        builder.Stitch(new(20.5, 0.5));
        builder.Trim();
        builder.Jump(new(0.5, 10.5));
        builder.Stitch(new(0.5, 10.5));
        var plan = new SewingPlan(builder.ToBlob(), [new(new(1), "x", SewingThread.Unnamed(0), PartRole.Decoration, 0, builder.Count, builder.ToBlob().BoundsOf(0, builder.Count))]);
        using var picture = SKBitmap.Decode(DensityPainter.Picture(DensityMap.Of(plan)));
        (picture.Width, picture.Height).ShouldBe((21, 11));
        picture.GetPixel(10, 0).Alpha.ShouldBe((byte)255);
        picture.GetPixel(10, 5).Alpha.ShouldBe((byte)0);
    }

    [Fact]
    public void A_design_of_one_stitch_or_none_still_has_a_picture()
    {
        var builder = new StitchBuilder();
        builder.Stitch(new(3, 3));
        ThreadPainter.Picture(new("One", builder.ToBlob(), [new(0, 1, SewingThread.Unnamed(0), PartRole.Decoration)]), 100, 80, Cloth).Length.ShouldBeGreaterThan(50);
        ThreadPainter.Picture(new("None", StitchBlob.None, []), 100, 80, Cloth).Length.ShouldBeGreaterThan(50);
        DensityPainter.Picture(DensityMap.Of(SewingPlan.Empty)).Length.ShouldBeGreaterThan(50);
    }

    private static Lab At(SKBitmap picture, int x, int y)
    {
        var p = picture.GetPixel(x, y);
        return Lab.From(new(p.Red, p.Green, p.Blue));
    }

    private static double Nearest(SKBitmap picture, Rgb colour)
    {
        var wanted = Lab.From(colour);
        var nearest = double.MaxValue;
        for (var x = 0; x < picture.Width; x += 2)
            for (var y = 0; y < picture.Height; y += 2)
                nearest = Math.Min(nearest, ColourDifference.Ciede2000(wanted, At(picture, x, y)));
        return nearest;
    }
}
