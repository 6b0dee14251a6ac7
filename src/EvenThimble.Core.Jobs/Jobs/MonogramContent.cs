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
    private const int MostTries = 9;
    private const int MostScalings = 6;
    private const int MostLooks = 2;
    private const int MostInVain = 3;
    private const double BroadestSatin = 9;

    // So many motifs of a frame tell its size and its distance from the letters, which are looked at each so many mm.
    private const int MostTelling = 32;
    private const double EachOfLetters = 0.8;

    // Where motifs come and go as sizes change, what is left over is scaled away: no more than this part of it, and no less than so much, mm.
    private const double MostScaled = 0.06;
    private const double WorthScaling = 0.08;

    // A try that is no better than this part of the best is followed by smaller steps.
    private const double WorthAStep = 0.7;
    private const double SmallerStep = 0.65;

    // Of size and distance, mm; off the distance it may be a little more.
    private const double CloseEnough = 0.05;
    private const double OffDistance = 0.65;

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
    public SewingThread? FrameThread => Shapes.Skip(Wish.Letters.Length).FirstOrDefault()?.Thread;

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

        // Threads are laid a little beyond what is drawn, since the cloth draws them together. Drawn that much smaller and farther apart, they come to lie where they are wanted; what is left over is measured.
        var (smaller, farther) = (2 * cloth.CompensationMm, 2 * cloth.CompensationMm);
        var (best, off, came, step) = ((MonogramContent?)null, double.PositiveInfinity, 0.0, 1.0);

        // A motif more or less would make all of it leap, so there stay as many as there are at first.
        var counts = new MotifCounts();

        // By how much those that are looked at tell size and distance wrong; when all is as wanted by what they tell, all of it is looked at.
        var (wrongSize, wrongGap, looks, vain) = (0.0, 0.0, 0, 0);
        for (var i = 0; i < MostTries; i++)
        {
            var laid = MonogramLaying.Of(wish with { SizeMm = Math.Max(wish.SizeMm - smaller, MonogramWish.Sizes.Least), FrameGapMm = Math.Max(wish.FrameGapMm + farther, 0) }, face.Font, counts);
            counts.Held = true;
            var content = Of(wish, face, stitched, laid).Keeping(before);
            var (size, gap) = content.Told(cloth);
            var (tooLarge, tooNear) = (size + wrongSize - wish.SizeMm, gap is { } mm ? wish.FrameGapMm - mm - wrongGap : 0);

            // Threads do not grow in step with what is drawn: where it leaps to and fro, smaller steps come to lie on the one side or the other.
            if (Math.Max(Math.Abs(tooLarge), OffDistance * Math.Abs(tooNear)) is var now && now > WorthAStep * off) step *= SmallerStep;
            if (now < off) (best, off, came, vain) = (content, now, size + wrongSize, 0);
            else if (++vain == MostInVain) break;
            if (off <= CloseEnough)
            {
                if (looks++ == MostLooks) break;
                var (wholeSize, wholeGap) = content.Sewn(cloth);
                var (moreSize, moreGap) = (wholeSize - size - wrongSize, (wholeGap - gap - wrongGap) ?? 0);
                if (Math.Max(Math.Abs(tooLarge + moreSize), OffDistance * Math.Abs(tooNear - moreGap)) <= CloseEnough) break;
                (wrongSize, wrongGap) = (wrongSize + moreSize, wrongGap + moreGap);
                (tooLarge, tooNear, step, off) = (tooLarge + moreSize, tooNear - moreGap, 1, double.PositiveInfinity);
            }

            smaller += step * tooLarge;
            farther += step * tooNear;
        }

        // Threads do not grow in step with what is drawn: a last throw or motif comes or goes, so a scaling may miss; then less of it is tried.
        var (nearest, missed, part) = (best!, wish.SizeMm - came, 1.0);
        for (var i = 0; i < MostScalings && Math.Abs(missed) > WorthScaling && Math.Abs(missed) < MostScaled * wish.SizeMm; i++)
        {
            var scaled = nearest.Scaled(1 + (part * missed / (wish.SizeMm - missed)));
            var now = wish.SizeMm - scaled.Told(cloth).SizeMm - wrongSize;
            if (Math.Abs(now) < Math.Abs(missed)) (nearest, missed, part) = (scaled, now, 1);
            else part *= now * missed < 0 ? 0.5 : 1.5;
        }

        return nearest;
    }

    /// <summary>Lays a monogram of which what is drawn, rather than the needle points, has the size that is wanted: for pictures, since nothing has to be stitched for it.</summary>
    /// <exception cref="EditRefusedException">It cannot be laid; a sentence.</exception>
    public static MonogramContent Drawn(MonogramWish wish, LetterFace face, Stitched stitched) => Of(wish, face, stitched, MonogramLaying.Of(wish, face.Font));

    /// <summary>Its longer side as it is sewn, and how far the needle points of the frame lie from the threads of the letters; null: it has no frame. mm.</summary>
    public (double SizeMm, double? GapMm) Sewn(ClothProfile cloth) => Sewn(cloth, s => s);

    /// <summary>The same as far as a part of many motifs tells it.</summary>
    private (double SizeMm, double? GapMm) Told(ClothProfile cloth) => Sewn(cloth, Telling);

    private (double SizeMm, double? GapMm) Sewn(ClothProfile cloth, Func<DrawingShape, DrawingShape> ofFrame)
    {
        var letters = Runs(Shapes.Take(Wish.Letters.Length), cloth);
        var frame = Runs(Shapes.Skip(Wish.Letters.Length).Select(ofFrame), cloth);
        var box = Box.Around(letters.Concat(frame).SelectMany(r => r));
        return (Math.Max(box.Width, box.Height), Wish.Frame is null ? null : LineDistance.Between(letters, frame));
    }

    private static List<List<Point>> Runs(IEnumerable<DrawingShape> shapes, ClothProfile cloth) => [.. shapes.SelectMany(s => Digitizer.Runs(s.Shape, s.Settings, cloth).Select(r => r.ConvertAll(s.At.Place)))];

    /// <summary>Of many motifs those that tell how large all of it is and how near to the letters: the outermost, and some of the nearest.</summary>
    private DrawingShape Telling(DrawingShape frame)
    {
        var motifs = frame.Shape.Paths.Where(p => p.Closed).ToList();
        if (motifs.Count <= MostTelling || frame.Settings.Way != StitchWay.Satin) return frame;
        var letters = Shapes.Take(Wish.Letters.Length).SelectMany(s => s.Shape.Paths.SelectMany(p => Polylines.InPieces(p.Flattened(), closed: true, EachOfLetters)).Select(s.At.Place)).ToList();
        var boxes = motifs.ConvertAll(m => Box.Around(m.Flattened()));
        var near = motifs.Select((m, i) => (Motif: i, Off: m.Flattened().Select(frame.At.Place).Min(p => letters.Min(p.DistanceTo)))).OrderBy(m => m.Off).Take(MostTelling / 2).Select(m => m.Motif);
        var outermost = new Func<Box, double>[] { x => x.MinX, x => -x.MaxX, x => x.MinY, x => -x.MaxY }.SelectMany(side => boxes.Select((x, i) => (Motif: i, At: side(x))).OrderBy(x => x.At).Take(MostTelling / 8).Select(x => x.Motif));
        return frame with { Shape = frame.Shape with { Paths = [.. near.Concat(outermost).Distinct().Select(i => motifs[i]), .. frame.Shape.Paths.Where(p => !p.Closed)] } };
    }

    /// <summary>All of it so many times as large.</summary>
    private MonogramContent Scaled(double times) => this with
    {
        Shapes = [.. Shapes.Select(s => s with { Shape = s.Shape.Moved(p => new(Math.Round(p.X * times, Decimals), Math.Round(p.Y * times, Decimals))), At = s.At with { X = Math.Round(s.At.X * times, Decimals), Y = Math.Round(s.At.Y * times, Decimals) } })],
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
