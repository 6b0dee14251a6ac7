using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Monograms;

namespace EvenThimble.Core.Jobs;

/// <summary>
/// Seeks how large, and how far from its letters, a monogram is to be drawn for its needle points to have the size and the distance that are wanted: threads are laid a little beyond what is drawn, since the cloth draws them
/// together, and do not grow in step with it, since throws and motifs come and go.
/// </summary>
internal sealed class MonogramFit
{
    private const int MostLaid = 4;
    private const int MostInVain = 2;
    private const int MostLooks = 2;
    private const int MostScalings = 8;

    // So many motifs of a frame tell its size and its distance from the letters, which are looked at each so many mm.
    private const int MostTelling = 32;
    private const double EachOfLetters = 0.8;

    // Of size and distance, mm; off the distance it may be a little more.
    private const double CloseEnough = 0.05;
    private const double OffDistance = 0.65;

    // What is left over is scaled away as far as it is no more than this part of the size.
    private const double MostScaled = 0.06;

    // A try that is no better than this part of the best is followed by smaller steps.
    private const double WorthAStep = 0.7;
    private const double SmallerStep = 0.65;

    // A scaling that went too far is followed by less of it, one that did nothing by more.
    private const double LessScaled = 0.5;
    private const double MoreScaled = 1.5;

    private readonly MonogramWish _wish;
    private readonly ClothProfile _cloth;
    private readonly Func<MonogramWish, MotifCounts, MonogramContent> _lay;

    // By how much the motifs that tell size and distance tell them wrong, as far as all of it was looked at.
    private Miss _wrong;

    private MonogramFit(MonogramWish wish, ClothProfile cloth, Func<MonogramWish, MotifCounts, MonogramContent> lay) => (_wish, _cloth, _lay) = (wish, cloth, lay);

    /// <summary>The monogram that comes nearest to what is wanted.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="cloth">On what it is sewn.</param>
    /// <param name="lay">Draws it as large, and with its frame as far from its letters, as another wish says, with as many motifs as were counted.</param>
    /// <exception cref="Text.EditRefusedException">It cannot be laid; a sentence.</exception>
    public static MonogramContent Of(MonogramWish wish, ClothProfile cloth, Func<MonogramWish, MotifCounts, MonogramContent> lay)
    {
        var fit = new MonogramFit(wish, cloth, lay);
        return fit.Scaled(fit.Laid()).Content;
    }

    /// <summary>The best of several that are laid anew, each as much smaller and farther apart as the one before was too large and too near.</summary>
    private Try Laid()
    {
        // A motif more or less would make all of it leap, so there stay as many as there are at first.
        var counts = new MotifCounts();
        var (smaller, farther, step, looks, vain) = (2 * _cloth.CompensationMm, 2 * _cloth.CompensationMm, 1.0, 0, 0);
        Try? best = null;
        for (var i = 0; i < MostLaid; i++)
        {
            var now = Told(_lay(_wish with { SizeMm = Math.Max(_wish.SizeMm - smaller, MonogramWish.Sizes.Least), FrameGapMm = Math.Max(_wish.FrameGapMm + farther, 0) }, counts));
            counts.Held = true;

            // Where it leaps to and fro, smaller steps come to lie on the one side or the other.
            if (best is not null && now.Off.Weight > WorthAStep * best.Off.Weight) step *= SmallerStep;
            if (best is null || now.Off.Weight < best.Off.Weight) (best, vain) = (now, 0);
            else if (++vain == MostInVain) break;
            if (best.Off.Weight <= CloseEnough)
            {
                if (looks++ == MostLooks) break;
                (best, step) = (Looked(best), 1);
                now = best;
                if (best.Off.Weight <= CloseEnough) break;
            }

            smaller += step * now.Off.TooLarge;
            farther += step * now.Off.TooNear;
        }

        return best!;
    }

    /// <summary>What is left over is scaled away, of the letters alone what is wrong of their distance.</summary>
    private Try Scaled(Try best)
    {
        var part = 1.0;
        for (var i = 0; i < MostScalings && (best.Off.Weight > CloseEnough || !best.IsWhole) && best.Off.Weight < MostScaled * _wish.SizeMm; i++)
        {
            if (best.Off.Weight <= CloseEnough)
            {
                (best, part) = (Looked(best), 1);
                continue;
            }

            var letters = Box.Around(best.Content.OfLetters.SelectMany(s => s.Shape.Paths.SelectMany(p => p.Flattened()).Select(s.At.Place)));
            var now = Told(best.Content.Scaled(1 - (part * best.Off.TooLarge / _wish.SizeMm), 1 - (part * best.Off.TooNear / (Math.Max(letters.Width, letters.Height) / 2))));
            part = now.Off.Weight < best.Off.Weight ? 1 : part * (now.Off.IsOpposite(best.Off) ? LessScaled : MoreScaled);
            if (now.Off.Weight < best.Off.Weight) best = now;
        }

        return best;
    }

    /// <summary>How far one is off, as those of its motifs tell that tell most.</summary>
    private Try Told(MonogramContent content)
    {
        var frame = content.OfFrame.ToList();
        var telling = frame.ConvertAll(f => Telling(content, f));
        var off = Off(content.Sewn(_cloth, telling));
        var isWhole = frame.SequenceEqual(telling, ReferenceEqualityComparer.Instance);
        return isWhole ? new(content, off, true) : new(content, off + _wrong, false);
    }

    /// <summary>The same when all of it is looked at, from which it is learned by how much its motifs told it wrong.</summary>
    private Try Looked(Try at)
    {
        if (at.IsWhole) return at;
        var off = Off(at.Content.Sewn(_cloth));
        _wrong += off - at.Off;
        return new(at.Content, off, true);
    }

    private Miss Off((double SizeMm, double? GapMm) sewn) => new(sewn.SizeMm - _wish.SizeMm, sewn.GapMm is { } mm ? _wish.FrameGapMm - mm : 0);

    /// <summary>Of many motifs those that tell how large all of it is and how near to the letters: the outermost, and some of the nearest.</summary>
    private static DrawingShape Telling(MonogramContent content, DrawingShape frame)
    {
        var motifs = frame.Shape.Paths.Where(p => p.Closed).ToList();
        if (motifs.Count <= MostTelling || frame.Settings.Way != StitchWay.Satin) return frame;
        var letters = content.OfLetters.SelectMany(s => s.Shape.Paths.SelectMany(p => Polylines.InPieces(p.Flattened(), closed: true, EachOfLetters)).Select(s.At.Place)).ToList();
        var boxes = motifs.ConvertAll(m => Box.Around(m.Flattened()));
        var near = motifs.Select((m, i) => (Motif: i, Off: m.Flattened().Select(frame.At.Place).Min(p => letters.Min(p.DistanceTo)))).OrderBy(m => m.Off).Take(MostTelling / 2).Select(m => m.Motif);
        var outermost = new Func<Box, double>[] { x => x.MinX, x => -x.MaxX, x => x.MinY, x => -x.MaxY }.SelectMany(side => boxes.Select((x, i) => (Motif: i, At: side(x))).OrderBy(x => x.At).Take(MostTelling / 8).Select(x => x.Motif));
        return frame with { Shape = frame.Shape with { Paths = [.. near.Concat(outermost).Distinct().Select(i => motifs[i]), .. frame.Shape.Paths.Where(p => !p.Closed)] } };
    }

    /// <summary>A monogram, and how far it is off what is wanted.</summary>
    /// <param name="Content">The monogram.</param>
    /// <param name="Off">By how much it misses what is wanted.</param>
    /// <param name="IsWhole">Whether all of it was looked at.</param>
    private sealed record Try(MonogramContent Content, Miss Off, bool IsWhole);

    /// <summary>By how much something is larger, and its frame nearer to its letters, than wanted, mm.</summary>
    private readonly record struct Miss(double TooLarge, double TooNear)
    {
        /// <summary>How much that matters, mm.</summary>
        public double Weight => Math.Max(Math.Abs(TooLarge), OffDistance * Math.Abs(TooNear));

        public bool IsOpposite(Miss other) => (TooLarge * other.TooLarge) + (OffDistance * OffDistance * TooNear * other.TooNear) < 0;

        public static Miss operator +(Miss a, Miss b) => new(a.TooLarge + b.TooLarge, a.TooNear + b.TooNear);

        public static Miss operator -(Miss a, Miss b) => new(a.TooLarge - b.TooLarge, a.TooNear - b.TooNear);
    }
}
