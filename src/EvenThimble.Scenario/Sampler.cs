using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Threads;

namespace EvenThimble.Scenario;

/// <summary>A job that shows every kind of stitch on shapes of the observatory, four by four.</summary>
public static class Sampler
{
    private const double Cell = 47;

    /// <summary>The job; all of it is drawn, so all of it follows the cloth.</summary>
    public static Job Make()
    {
        var empty = Job.New(new(StandInMachines.Heron200.Id, "200x200")) with { Title = "Sampler", Cloth = Cloth.Of(ClothProfiles.Find("linen")!) };
        return new AddShapes("Sampler", [.. Shapes().Select((s, i) => Placed(s.Name, s.Shape, s.Settings, s.Thread, i))]).Apply(empty);
    }

    private static NewShape Placed(string name, DrawnShape shape, StitchSettings settings, SewingThread thread, int i)
    {
        var middle = shape.Bounds.Middle;
        return new(name, shape.Moved(p => p - middle), settings, thread, new(((i % 4) - 1.5) * Cell, ((i / 4) - 1.5) * Cell, 0));
    }

    private static IEnumerable<(string Name, DrawnShape Shape, StitchSettings Settings, SewingThread Thread)> Shapes()
    {
        yield return ("run: orbits", Open([new(-17, 0), new(-9, -10), new(0, 0), new(9, 10), new(17, 0)]), new(StitchWay.Run), VolunteersThreads.Night);
        yield return ("triple run: hills", new([ShapePath.Through([new(-17, 8), new(-8, -9), new(-1, 2), new(7, -7), new(17, 8)], closed: false)]), new(StitchWay.TripleRun), VolunteersThreads.Fern);
        yield return ("motif row: round window", BasicShapes.Ellipse(30, 30), new(StitchWay.MotifRow) { Motif = "petals", MotifLengthMm = 7.5 }, VolunteersThreads.Rust);
        yield return ("satin line: comet's way", Open([new(-17, 9), new(-9, -6), new(4, -9), new(17, -2)]), new(StitchWay.LineSatin) { WidthMm = 3.4 }, VolunteersThreads.Gold);
        yield return ("satin: crescent", BasicShapes.Crescent(22, 34), new(StitchWay.Satin), VolunteersThreads.Honey);
        yield return ("satin with a window", new([.. BasicShapes.Heart(36, 33).Paths, .. BasicShapes.Heart(24, 21).Moved(p => p + new Point(0, -0.5)).Paths]), new(StitchWay.Satin), VolunteersThreads.Madder);
        yield return ("split satin: wide star", BasicShapes.Star(36, 36, 5, 0.5), new(StitchWay.Satin), VolunteersThreads.Sand);
        yield return ("by width: key of the dome", Key(), new(), VolunteersThreads.Slate);
        yield return ("fill round its windows", Porthole(), new(StitchWay.Fill) { Angle = 20 }, VolunteersThreads.Tarn);
        yield return ("fill, light: cloud", new([ShapePath.Through([new(-17, 4), new(-10, -8), new(0, -4), new(8, -11), new(17, 2), new(10, 9), new(-9, 9)], closed: true, NodeKind.Smooth)]), new(StitchWay.Fill) { Angle = 90, SpacingMm = 0.6, Underlay = new(Underlay.Edge) }, VolunteersThreads.Sky);
        yield return ("patterned fill: dome shingles", Dome(), new(StitchWay.PatternedFill) { Tile = "shingle", Angle = 0 }, VolunteersThreads.Chalk);
        yield return ("patterned fill: scale", BasicShapes.Ellipse(34, 24), new(StitchWay.PatternedFill) { Tile = "scale", Angle = 0 }, VolunteersThreads.Moss);
        yield return ("patterned fill: diamond", BasicShapes.Rectangle(32, 32, 4), new(StitchWay.PatternedFill) { Tile = "diamond", Angle = 45 }, VolunteersThreads.Dusk);
        yield return ("patterned fill: herringbone", BasicShapes.Polygon(34, 36, 6), new(StitchWay.PatternedFill) { Tile = "herringbone", Angle = 0 }, VolunteersThreads.Heather);
        yield return ("motif row, by turns", BasicShapes.Rectangle(30, 26, 6), new(StitchWay.MotifRow) { Motif = "star", MotifLengthMm = 6.4, MotifTurn = MotifTurn.Alternating }, VolunteersThreads.Ink);
        yield return ("satin line round a corner", new([ShapePath.Through([new(-15, -13), new(15, -13), new(15, 13), new(-15, 13)], closed: true)]), new(StitchWay.LineSatin) { WidthMm = 4 }, VolunteersThreads.Bark);
    }

    private static DrawnShape Open(Point[] points) => new([ShapePath.Through(points, closed: false, NodeKind.Smooth)]);

    private static DrawnShape Key() => new(
    [
        ShapePath.Through([.. Outlines.Arc(new(-9, 0), 8.5, 8.5, 14, 346), new(19, -2), new(19, 6), new(15.5, 6), new(15.5, 2), new(12, 2), new(12, 5), new(8.5, 5), new(8.5, 2)], closed: true),
    ]);

    private static DrawnShape Porthole() => new(
    [
        .. BasicShapes.Ellipse(34, 34).Paths,
        .. Enumerable.Range(0, 5).SelectMany(i => BasicShapes.Star(9, 9, 5, 0.45).Moved(p => p + new Point(0, -9.6).Turned(i * 72, Point.Zero)).Paths),
    ]);

    private static DrawnShape Dome() => new([ShapePath.Through([.. Outlines.Arc(new(0, 8), 17, 20, 180, 360), new(17, 12), new(-17, 12)], closed: true)]);
}
