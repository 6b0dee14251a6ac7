using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Planning.Splitting;

/// <summary>The stored stitches of a part where they lie in the job, before anything is left out of them or made anew.</summary>
public sealed class PartStitches
{
    private readonly Part _part;
    private readonly IStitchSource _source;

    private PartStitches(Part part, IStitchSource source) => (_part, _source) = (part, source);

    /// <summary>A record of a slice.</summary>
    /// <param name="Slice">Number of the slice within the part.</param>
    /// <param name="Record">Number of the record within the blob.</param>
    /// <param name="At">Where it lies in the job, mm.</param>
    /// <param name="Kind">What happens there.</param>
    public readonly record struct Place(int Slice, int Record, Point At, StitchKind Kind);

    /// <summary>The stitches of a part that came as stitches.</summary>
    public static PartStitches Of(Part part, IStitchSource source) => new(part, source);

    /// <summary>All records in the order they are sewn.</summary>
    public IEnumerable<Place> All()
    {
        for (var s = 0; s < _part.Slices.Length; s++)
        {
            var slice = _part.Slices[s];
            var (blob, placed) = (_source.Get(slice.Blob), slice.In(_part.Placement));
            for (var i = slice.First; i < slice.End; i++) yield return new(s, i, placed.Place(blob.At(i)), blob.Kinds[i]);
        }
    }

    /// <summary>The rectangle about every needle point of parts as they came, only placed and sized; of drawn ones about their outlines. It grows and shrinks exactly with the sizes.</summary>
    public static Box BoundsOf(IEnumerable<Part> parts, IStitchSource source)
    {
        var box = Box.Empty;
        foreach (var part in parts)
        {
            if (part.Drawn is { } drawn)
            {
                foreach (var p in drawn.Shape.Paths.SelectMany(s => s.Flattened())) box = box.With(part.Placement.PlaceFinely(p));
                continue;
            }

            foreach (var slice in part.Slices)
            {
                var (blob, placed) = (source.Get(slice.Blob), slice.In(part.Placement));
                for (var i = slice.First; i < slice.End; i++)
                    if (blob.Kinds[i] == StitchKind.Stitch)
                        box = box.With(placed.PlaceFinely(blob.At(i)));
            }
        }

        return box;
    }
}
