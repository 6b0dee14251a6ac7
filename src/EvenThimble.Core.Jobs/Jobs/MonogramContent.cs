using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>
/// A monogram: what is wanted of it, and its letters and frame as they were laid. It is laid anew whenever the wish changes; what was done to a letter or a piece of the frame stays as long as it is there.
/// </summary>
/// <param name="Wish">What is wanted.</param>
/// <param name="Font">The name of its font.</param>
/// <param name="Shapes">The letters from left to right, then the pieces of the frame.</param>
public sealed record MonogramContent(MonogramWish Wish, string Font, ImmutableArray<DrawingShape> Shapes) : DrawingContent(Shapes)
{
    private const int Decimals = 4;
    private const double BroadestSatin = 9;

    /// <summary>How it is stitched.</summary>
    /// <param name="Way">How letters are.</param>
    /// <param name="Thread">The thread of letters.</param>
    /// <param name="FrameThread">The thread of the frame.</param>
    public sealed record Stitched(StitchWay Way, SewingThread Thread, SewingThread FrameThread);

    /// <summary>How its letters were wanted to be stitched.</summary>
    public StitchWay Way { get; init; }

    /// <summary>The thread of its letters.</summary>
    public SewingThread Thread => Shapes[0].Thread;

    /// <summary>The thread of its frame; null: it has none.</summary>
    public SewingThread? FrameThread => OfFrame.FirstOrDefault()?.Thread;

    /// <summary>Lays a monogram: its size, and the distance between letters and frame, are those of its needle points.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="face">In which font.</param>
    /// <param name="stitched">How it is stitched.</param>
    /// <param name="cloth">On what it is sewn, which says how much wider than drawn that is.</param>
    /// <param name="before">What it was, where it is laid anew: settings that were changed by hand stay.</param>
    /// <exception cref="EditRefusedException">It cannot be laid; a sentence.</exception>
    public static MonogramContent Lay(MonogramWish wish, LetterFace face, Stitched stitched, ClothProfile cloth, MonogramContent? before = null)
    {
        wish.Check();
        return MonogramFit.Of(wish, cloth, (drawn, counts) => Of(wish, face, stitched, MonogramLaying.Of(drawn, face.Font, counts)).Keeping(before));
    }

    /// <summary>Lays a monogram of which what is drawn, rather than the needle points, has the size that is wanted: for pictures, since nothing has to be stitched for it.</summary>
    /// <exception cref="EditRefusedException">It cannot be laid; a sentence.</exception>
    public static MonogramContent Drawn(MonogramWish wish, LetterFace face, Stitched stitched) => Of(wish, face, stitched, MonogramLaying.Of(wish, face.Font));

    /// <summary>Its longer side as it is sewn, and how far the needle points of the frame lie from the threads of the letters; null: it has no frame. mm.</summary>
    public (double SizeMm, double? GapMm) Sewn(ClothProfile cloth) => Sewn(cloth, OfFrame);

    /// <summary>The same with other pieces of the frame, or some of what they have.</summary>
    internal (double SizeMm, double? GapMm) Sewn(ClothProfile cloth, IEnumerable<DrawingShape> ofFrame)
    {
        var (letters, frame) = (Runs(OfLetters, cloth), Runs(ofFrame, cloth));
        var box = Box.Around(letters.Concat(frame).SelectMany(r => r));
        return (Math.Max(box.Width, box.Height), Wish.Frame is null ? null : LineDistance.Between(letters, frame));
    }

    /// <summary>All of it so many times as large, and its letters so many times more.</summary>
    internal MonogramContent Scaled(double times, double letters) => this with { Shapes = [.. OfLetters.Select(s => Scaled(s, times * letters)), .. OfFrame.Select(s => Scaled(s, times))] };

    /// <summary>The shapes of its letters, from left to right.</summary>
    internal IEnumerable<DrawingShape> OfLetters => Shapes.Take(Wish.Letters.Length);

    /// <summary>The pieces of its frame.</summary>
    internal IEnumerable<DrawingShape> OfFrame => Shapes.Skip(Wish.Letters.Length);

    private static List<List<Point>> Runs(IEnumerable<DrawingShape> shapes, ClothProfile cloth) => [.. shapes.SelectMany(s => Digitizer.Runs(s.Shape, s.Settings, cloth).Select(r => r.ConvertAll(s.At.Place)))];

    private static DrawingShape Scaled(DrawingShape s, double times) => s with
    {
        Shape = s.Shape.Moved(p => new(Math.Round(p.X * times, Decimals), Math.Round(p.Y * times, Decimals))),
        At = s.At with { X = Math.Round(s.At.X * times, Decimals), Y = Math.Round(s.At.Y * times, Decimals) },
    };

    private static MonogramContent Of(MonogramWish wish, LetterFace face, Stitched stitched, LaidMonogram laid)
    {
        var settings = UsualOf(stitched.Way, laid.Letters.Select(l => l.Outline));

        // Letters and frame have keys by what they are, so that another letter in the middle keeps the thread that the one before it was given.
        var letters = laid.Letters.Select((l, i) => DrawingShape.About(new($"letter-{i + 1}"), l.Text, l.Outline, settings, stitched.Thread, Decimals));
        var frame = laid.Frame.Select((f, i) => DrawingShape.About(new($"frame-{i + 1}"), f.Name, f.Shape, f.Settings, stitched.FrameThread, Decimals));
        return new(wish, face.Name, [.. letters, .. frame]) { Way = stitched.Way };
    }

    /// <summary>All letters are stitched alike: where one is too broad for satin, in rows.</summary>
    private static StitchSettings UsualOf(StitchWay way, IEnumerable<DrawnShape> letters) => new(way != StitchWay.Automatic ? way
        : letters.Any(l => Area.Of(l.Paths.Where(p => p.Closed).Select(p => p.Flattened()), l.Rule).Any(a => !a.Grown(-BroadestSatin / 2).IsEmpty)) ? StitchWay.Fill : StitchWay.Satin);

    /// <summary>The same with what was changed by hand of how its letters, and the pieces of its frame if that is the same, were stitched before.</summary>
    private MonogramContent Keeping(MonogramContent? before)
    {
        if (before is null) return this;
        var letters = UsualOf(before.Way, before.Shapes.Take(before.Wish.Letters.Length).Select(s => s.Shape));
        var frame = before.Wish.Frame is { } same && same.Id == Wish.Frame?.Id ? same.Along(BasicShapes.Ellipse(40, 40).Paths[0].Flattened()) : [];
        var usual = Enumerable.Repeat(letters, before.Wish.Letters.Length).Concat(frame.Select(f => f.Settings)).Zip(before.Shapes, (was, shape) => (shape.Key, Usual: ForMotifs(was, shape), shape.Settings)).ToDictionary(s => s.Key);
        return this with
        {
            Shapes =
            [
                .. Shapes.Select((s, i) => !usual.TryGetValue(s.Key, out var was) ? s
                    : s.Settings.Carrying(was.Usual, was.Settings) is var kept && i < Wish.Letters.Length && Way != before.Way ? s with { Settings = kept with { Way = s.Settings.Way } } // another way is wanted for all letters
                    : s with { Settings = kept }),
            ],
        };

        static StitchSettings ForMotifs(StitchSettings usual, DrawingShape shape) =>
            shape.Settings.MotifLengthMm is { } length && MonogramFrame.IsChosen(shape.Shape, length) ? usual with { MotifLengthMm = length } : usual;
    }

    /// <summary>Equal when the wish, the font and every shape are.</summary>
    public bool Equals(MonogramContent? other) => base.Equals(other) && Wish == other.Wish && Font == other.Font && Way == other.Way;

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(base.GetHashCode(), Wish, Font);

    /// <inheritdoc/>
    protected override ImmutableArray<MadePart> Make() => [.. Shapes.Select((s, i) => new MadePart(s.Key, s.Name, s.Thread, i < Wish.Letters.Length ? PartRole.Lettering : PartRole.Decoration, new PartSource.Drawn(s.Shape, s.Settings), s.At))];
}
