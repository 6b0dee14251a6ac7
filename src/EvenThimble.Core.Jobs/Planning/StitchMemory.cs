using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Planning;

/// <summary>The stitches of parts before they are placed: made of what is drawn, or bought ones read and made anew. Recent ones are remembered, so that only what was changed is made again.</summary>
public sealed class StitchMemory
{
    private const long MostRecords = 1_500_000;
    private const int WeightOfOne = 100;

    /// <summary>What of a cloth the stitches depend on, with the shape and its settings.</summary>
    private readonly record struct Drawing(DrawnShape Shape, StitchSettings Settings, Sizing Size, double SatinSpacing, double FillSpacing, UnderlayLayers SatinUnderlay, UnderlayLayers FillUnderlay, double Compensation);

    private readonly record struct BlobRange(BlobHash Blob, int First, int Count, ToldReadings? Told);

    private readonly record struct Reworking(BlobRange Of, Sizing Size, Rework Rework);

    private readonly RecentlyMade<Drawing, StitchBlob> _drawn = new(MostRecords, b => b.Count + WeightOfOne);
    private readonly RecentlyMade<BlobRange, ReadStitches> _read = new(MostRecords, r => r.Stitches.Count + WeightOfOne);
    private readonly RecentlyMade<Reworking, MadeStitches> _reworked = new(MostRecords, m => m.Stitches.Count + WeightOfOne);

    /// <summary>The stitches of a shape at a size on a cloth.</summary>
    public StitchBlob Drawn(PartSource.Drawn drawn, Sizing size, ClothProfile cloth) => _drawn.Get(
        new(drawn.Shape, drawn.Settings, size, cloth.SatinSpacingMm, cloth.FillSpacingMm, cloth.SatinUnderlay, cloth.FillUnderlay, cloth.CompensationMm),
        () =>
        {
            var (shape, settings) = (drawn.Shape, drawn.Settings);
            if (!size.IsOriginal)
            {
                shape = shape.Moved(size.Apply);
                settings = settings with { Start = settings.Start is { } s ? size.Apply(s) : null, End = settings.End is { } e ? size.Apply(e) : null, StrokeMm = settings.StrokeMm * Math.Sqrt(size.OfArea) };
            }

            return Digitizer.Stitch(shape, settings, cloth);
        });

    /// <summary>Bought stitches, with what they were read as.</summary>
    public ReadStitches Read(IStitchSource source, StitchSlice slice) =>
        _read.Get(RangeOf(slice), () => ReadStitches.Of(source.Get(slice.Blob).Cut(slice.First, slice.Count), [.. slice.ToldFrom(slice.First)]));

    /// <summary>Bought stitches at a size with all that is done to them, neither turned nor moved.</summary>
    public MadeStitches Reworked(IStitchSource source, StitchSlice slice, Sizing size) =>
        _reworked.Get(new(RangeOf(slice), size, slice.Rework), () => Respacer.MakeTold(Read(source, slice), size, slice.Rework));

    private static BlobRange RangeOf(StitchSlice slice) => new(slice.Blob, slice.First, slice.Count, slice.Rework.Told);
}
