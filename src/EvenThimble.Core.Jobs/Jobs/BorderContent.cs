using System.Collections.Immutable;
using EvenThimble.Core.Borders;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>A border around pieces of the job: what is wanted of it, what it goes around, and its lines and motifs as they were laid. It is laid anew when that is asked for.</summary>
/// <param name="Wish">What is wanted.</param>
/// <param name="Around">The pieces that it goes around.</param>
/// <param name="Outline">The outline of those when it was laid, convex, within this piece, mm.</param>
/// <param name="Shapes">Its pieces.</param>
public sealed record BorderContent(BorderWish Wish, ImmutableArray<PieceId> Around, ImmutableArray<Point> Outline, ImmutableArray<DrawingShape> Shapes) : DrawingContent(Shapes)
{
    private const int MostTries = 3;
    private const int Decimals = 4;

    // Of the distance, mm.
    private const double CloseEnough = 0.05;

    /// <summary>Lays a border: its distance is that of its needle points.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="around">What it goes around.</param>
    /// <param name="outline">The convex outline of the needle points of that, in the border's own place, mm.</param>
    /// <param name="thread">Its thread.</param>
    /// <param name="cloth">What it is sewn on.</param>
    /// <param name="before">What it was, where it is laid anew of the same: settings that were changed by hand stay.</param>
    /// <exception cref="Text.EditRefusedException">It cannot be laid; a sentence.</exception>
    public static BorderContent Lay(BorderWish wish, ImmutableArray<PieceId> around, ImmutableArray<Point> outline, SewingThread thread, ClothProfile cloth, BorderContent? before = null)
    {
        wish.Check();
        var changed = before?.ChangedByHand(wish) ?? [];
        var (farther, best, off) = (cloth.CompensationMm, (BorderContent?)null, double.PositiveInfinity);
        for (var i = 0; i < MostTries && off > CloseEnough; i++)
        {
            var content = new BorderContent(wish, around, outline,
                [.. BorderLaying.Of(wish with { DistanceMm = Math.Min(wish.DistanceMm + Math.Max(farther, -wish.DistanceMm), BorderWish.Distances.Most) }, outline).Select((p, n) => DrawingShape.About(new($"border-{n + 1}"), p.Name, p.Shape, n < changed.Count ? p.Settings.Carrying(changed[n].Usual, changed[n].Is) : p.Settings, thread, Decimals))]);
            var now = wish.DistanceMm - content.SewnMm(cloth);
            if (Math.Abs(now) < off) (best, off) = (content, Math.Abs(now));
            farther += now;
        }

        return best!;
    }

    /// <summary>Of each piece how it is usually stitched and how it is; nothing where something else is wanted, which has other pieces.</summary>
    private List<(StitchSettings Usual, StitchSettings Is)> ChangedByHand(BorderWish wish) => wish.Frame.Id != Wish.Frame.Id || wish.Sides != Wish.Sides ? []
        : [.. BorderLaying.Of(Wish, Outline).Zip(Shapes, (usual, shape) => (usual.Settings, shape.Settings))];

    /// <summary>The thread of most of it.</summary>
    public SewingThread Thread => Shapes.GroupBy(s => s.Thread).MaxBy(g => g.Count())!.Key;

    /// <summary>How far its needle points lie from the outline of what it goes around where they are nearest, mm; along sides, from the rectangle about that.</summary>
    public double SewnMm(ClothProfile cloth)
    {
        var box = Box.Around(Outline);
        Point[] ring = Wish.Sides == BorderSides.AllRound && Wish.Form != Monograms.FrameForm.Rectangle ? [.. Outline, Outline[0]]
            : [new(box.MinX, box.MinY), new(box.MaxX, box.MinY), new(box.MaxX, box.MaxY), new(box.MinX, box.MaxY), new(box.MinX, box.MinY)];
        return LineDistance.Between([ring], Shapes.SelectMany(s => Digitizer.Runs(s.Shape, s.Settings, cloth).Select(r => r.ConvertAll(s.At.Place))));
    }

    /// <summary>Equal when the wish, what it goes around and every shape are.</summary>
    public bool Equals(BorderContent? other) => base.Equals(other) && Wish == other.Wish && Around.AsSpan().SequenceEqual(other.Around.AsSpan()) && Outline.AsSpan().SequenceEqual(other.Outline.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(base.GetHashCode(), Wish, Around.Length);
}
