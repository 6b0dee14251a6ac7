using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Scenario;

/// <summary>A file of the letter set.</summary>
/// <param name="FileName">Its name.</param>
/// <param name="Draw">Makes the stitches; the same each time.</param>
public sealed record OrbitBlockFile(string FileName, Func<StitchFile> Draw);

/// <summary>
/// A letter set as one buys them: a file for each capital letter and digit and a few small letters, broad satin, most of them standing on their baseline, some a little off it, and one in another thread.
/// </summary>
public static class OrbitBlock
{
    // Of its capitals, along the middle of their strokes.
    private const double CapitalMm = 21;
    private const double CapitalStrokeMm = 4.2;
    private const double SmallStrokeMm = 3.4;
    private const string Characters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789aegnoprst&-.";

    // What somebody was careless about: how far these lie below where they should, mm.
    private static readonly Dictionary<char, double> Careless = new() { ['D'] = 1.6, ['N'] = -1.1, ['7'] = 2.4, ['r'] = -0.9 };
    private const char InAnotherThread = 'L';

    /// <summary>What it is called.</summary>
    public const string Name = "Orbit Block";

    /// <summary>Its files.</summary>
    public static IReadOnlyList<OrbitBlockFile> Files { get; } = [.. Characters.Select(c => new OrbitBlockFile(NameOf(c), () => Draw(c)))];

    private static string NameOf(char c) => c switch
    {
        '&' => "orbit_block_amp.evth",
        '-' => "orbit_block_hyphen.evth",
        '.' => "orbit_block_period.evth",
        >= 'a' and <= 'z' => $"orbit_block_{c}_lower.evth",
        _ => $"orbit_block_{c}.evth",
    };

    private static StitchFile Draw(char c)
    {
        var font = StrokeFont.Small;
        var lines = font.Outline(font.Shape(c.ToString()).Glyphs[0].Glyph).Moved(p => p * (CapitalMm / font.CapitalEm));
        var stroke = char.IsAsciiLetterLower(c) ? SmallStrokeMm : CapitalStrokeMm;
        var (left, down) = (lines.Bounds.MinX - (stroke / 2), Careless.GetValueOrDefault(c));
        var pen = new DesignPen();
        pen.Take(c == InAnotherThread ? VolunteersThreads.Rust : VolunteersThreads.Night, PartRole.Lettering);

        // The feet of the strokes stand on the baseline, at 0.
        var strokes = lines.Moved(p => new(p.X - left, p.Y - (stroke / 2) + down));
        var bands = Area.Of(strokes.Paths.SelectMany(p => LineBand.Of(Lengthened(p, stroke / 2, [.. strokes.Paths.Where(o => o != p).Select(o => o.Flattened())]), p.Closed, stroke)).SelectMany(a => a.Rings), Inside.AnyWinding);
        var ground = Region.OfBoxes([strokes.Bounds.Grown(stroke / 2)]);
        pen.Shape(new([.. bands.SelectMany(a => a.Within(ground).Areas).SelectMany(a => a.Rings).Select(r => ShapePath.Through(r, closed: true))]), new(StitchWay.Satin), ClothProfiles.Cotton);
        return pen.Finish($"Orbit Block {c}");
    }

    /// <summary>A stroke whose free ends reach as far beyond as it is wide to either side, so that all letters are equally high.</summary>
    private static List<Point> Lengthened(ShapePath path, double by, IReadOnlyList<List<Point>> others)
    {
        var line = path.Flattened();
        if (path.Closed)
        {
            line.Add(line[0]);
            return line;
        }

        if (IsFree(line[0])) line[0] = Beyond(line[0], line[Math.Min(1, line.Count - 1)]);
        if (IsFree(line[^1])) line[^1] = Beyond(line[^1], line[Math.Max(0, line.Count - 2)]);
        return line;

        bool IsFree(Point end) => others.All(o => o.Count < 2 || new MeasuredLine([.. o]) is var other && other.PointAt(other.Nearest(end)).DistanceTo(end) > by);
        Point Beyond(Point end, Point before) => end + ((end - before).Unit() is { Length: > 0 } on ? on : new Point(1, 0)) * by;
    }
}
