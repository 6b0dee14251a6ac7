using System.Collections.Concurrent;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;

namespace EvenThimble.Web.Workroom;

/// <summary>Small pictures of what can be chosen for stitches, each of real stitches.</summary>
public sealed class StitchLooks
{
    private const int Width = 132;
    private const int Height = 84;
    private static readonly SewingThread Thread = new("Fenlight", "0", "indigo", Rgb.FromInt(0x2F4B7C));
    private static readonly ShapePath Line = ShapePath.Through([new(-13, 3), new(-5, -4), new(5, 4), new(13, -3)], closed: false, NodeKind.Smooth);
    private readonly ConcurrentDictionary<string, byte[]> _drawn = new();

    /// <summary>The picture (PNG) of a way, a motif or a tile; null when there is no such.</summary>
    public byte[]? Find(string kind, string id)
    {
        DrawnShape line = new([Line]);
        (DrawnShape, StitchSettings)? what = kind switch
        {
            "way" when StitchWays.TryParse(id.Replace('-', ' '), out var way) && id == way.InWords().Replace(' ', '-') => way.IsOfArea()
                ? (BasicShapes.Star(24, 24, 5, 0.5), new(way) { Tile = "diamond", TileScale = 0.7 })
                : (line, new StitchSettings(way) { Motif = "petals", WidthMm = 3 }),
            "motif" when Motifs.Find(id) is { } motif => (new([ShapePath.Through([new(-13, 0), new(13, 0)], closed: false)]), new(StitchWay.MotifRow) { Motif = motif.Id, MotifLengthMm = 8.6 }),
            "tile" when Tiles.Find(id) is { } tile => (BasicShapes.Rectangle(26, 16, 2), new(StitchWay.PatternedFill) { Tile = tile.Id, Angle = 0 }),
            _ => null,
        };
        return what is { } w ? _drawn.GetOrAdd($"{kind}/{id}", _ => Picture(w.Item1, w.Item2, ClothProfiles.Cotton, Width, Height)) : null;
    }

    /// <summary>A picture of a shape's stitches on a cloth.</summary>
    public static byte[] Picture(DrawnShape shape, StitchSettings settings, ClothProfile cloth, int width, int height)
    {
        var blob = Digitizer.Stitch(shape, settings, cloth);
        return ThreadPainter.Picture(new("look", blob, [new(0, blob.Count, Thread, PartRole.Decoration)]), width, height, cloth.UsualColour, 8);
    }
}
