using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Lettering;

/// <summary>
/// Sews letters in the order of reading. Letters that touch, as those of a script, are one shape, so that their strokes flow into one another; letters that nearly touch are joined where they
/// are nearest; between others the thread is trimmed.
/// </summary>
public static class LetteringSewing
{
    /// <summary>Where the next letter begins nearer than this to where the last one ended, the needle goes straight on, mm.</summary>
    public const double NearlyTouching = 0.9;

    /// <summary>The stitches of a lettering.</summary>
    /// <param name="laid">The letters.</param>
    /// <param name="settings">How they are stitched.</param>
    /// <param name="cloth">On what.</param>
    public static StitchBlob Stitch(LaidLettering laid, StitchSettings settings, ClothProfile cloth)
    {
        var builder = new StitchBuilder(4096);
        var whole = new List<Point>();
        foreach (var run in Runs(laid, settings, cloth))
        {
            if (whole.Count > 0 && whole[^1].DistanceTo(run[0]) > NearlyTouching)
            {
                Ties.Add(builder, whole);
                whole = [];
            }

            whole.AddRange(whole.Count > 0 && whole[^1].DistanceTo(run[0]) < Limits.ShortestStitch ? run.Skip(1) : run);
        }

        Ties.Add(builder, whole);
        return builder.ToBlob();
    }

    /// <summary>The unbroken runs, each letter begun where it is nearest to the end of the one before.</summary>
    private static IEnumerable<List<Point>> Runs(LaidLettering laid, StitchSettings settings, ClothProfile cloth)
    {
        var needle = (Point?)null;
        foreach (var word in Touching(laid))
        {
            foreach (var run in Digitizer.Runs(word, settings with { Start = needle is { } at ? NearestOf(word, at) : null }, cloth))
            {
                needle = run[^1];
                yield return run;
            }
        }
    }

    /// <summary>Shapes in the order of reading: of each line, letters that touch the one before are taken together with it.</summary>
    private static IEnumerable<DrawnShape> Touching(LaidLettering laid)
    {
        foreach (var line in laid.Letters.GroupBy(l => l.Line))
        {
            var together = new List<PlacedLetter>();
            foreach (var letter in line)
            {
                if (together.Count > 0 && !Touch(together[^1], letter))
                {
                    yield return Joined(together);
                    together.Clear();
                }

                together.Add(letter);
            }

            yield return Joined(together);
        }
    }

    private static DrawnShape Joined(List<PlacedLetter> letters) => letters.Count == 1 ? letters[0].Outline : new([.. letters.SelectMany(l => l.Outline.Paths)], Inside.AnyWinding);

    private static bool Touch(PlacedLetter a, PlacedLetter b)
    {
        var (one, other) = (a.Box, b.Box);
        if (one.MaxX < other.MinX || other.MaxX < one.MinX || one.MaxY < other.MinY || other.MaxY < one.MinY) return false;
        var (left, right) = (AreasOf(a), AreasOf(b));
        return left.Any(l => right.Any(l.Meets));
    }

    private static IReadOnlyList<Area> AreasOf(PlacedLetter letter) => Area.Of(letter.Outline.Paths.Select(p => p.Flattened()), letter.Outline.Rule);

    private static Point NearestOf(DrawnShape shape, Point to) => shape.Paths.SelectMany(p => p.Flattened()).MinBy(to.DistanceTo);
}
