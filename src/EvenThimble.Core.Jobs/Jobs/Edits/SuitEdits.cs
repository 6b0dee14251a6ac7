using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>What a slice of bought stitches was read as, for suiting it to a cloth.</summary>
/// <param name="SpacingMm">Usual spacing as it came, mm; 0: it has none that was understood.</param>
/// <param name="IsSatin">Most of it is satin.</param>
public readonly record struct SliceReading(double SpacingMm, bool IsSatin);

/// <summary>
/// Takes parts to the spacing and underlay that a cloth asks for, whatever cloth the job lies on: drawn shapes and letters by their settings, bought stitches by re-spacing, and by leaving their underlay out where
/// the cloth asks for no more than a line under them.
/// </summary>
/// <param name="Parts">The parts.</param>
/// <param name="Cloth">The cloth.</param>
/// <param name="Readings">What the slices of bought parts were read as, in their order.</param>
public sealed record SuitToCloth(IReadOnlySet<PartId> Parts, ClothProfile Cloth, ImmutableDictionary<PartId, ImmutableArray<SliceReading>> Readings) : PartsEdit(Parts)
{
    // A spacing this near to what is wanted stays, as part of it.
    private const double NearEnough = 0.02;

    /// <inheritdoc/>
    protected override Job Change(Job job)
    {
        var drawn = job.Order.Where(p => Parts.Contains(p.Id) && p.Drawn is not null).Select(p => p.Id).ToHashSet();
        var suited = drawn.Count == 0 ? job : new Restitch(drawn, [new("spacing and underlay", Cloth.Name, Suited)]).Apply(job);
        var bought = Parts.Where(p => !drawn.Contains(p)).ToHashSet();
        suited = suited.With(bought, p => Readings.TryGetValue(p.Id, out var its) && its.Length == p.Slices.Length ? p.WithSlices([.. p.Slices.Zip(its, Suited)]) : p);
        return suited.Equals(job) ? throw new EditRefusedException($"Nothing of this would be otherwise on {Cloth.Name}: it has its spacing already, or how it is laid was not understood.") : suited;
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Suited {Named(before)} to {Cloth.Name}";

    private StitchSettings Suited(StitchSettings settings) => settings.Way switch
    {
        StitchWay.Run or StitchWay.TripleRun or StitchWay.MotifRow => settings,
        StitchWay.Satin or StitchWay.LineSatin => settings with { SpacingMm = Cloth.SatinSpacingMm, Underlay = Cloth.SatinUnderlay },
        _ => settings with { SpacingMm = Cloth.FillSpacingMm, SatinSpacingMm = Cloth.SatinSpacingMm, Underlay = Cloth.FillUnderlay },
    };

    private StitchSlice Suited(StitchSlice slice, SliceReading reading)
    {
        if (reading.SpacingMm <= 0) return slice;
        var wanted = reading.IsSatin ? Cloth.SatinSpacingMm : Cloth.FillSpacingMm;
        var times = Math.Clamp(Math.Round(wanted / reading.SpacingMm, 3), ChangeSpacing.Least, ChangeSpacing.Most);
        var under = reading.IsSatin ? Cloth.SatinUnderlay : Cloth.FillUnderlay;
        var lightly = under.Second == Underlay.None && under.First is Underlay.None or Underlay.Centre or Underlay.Edge;
        return slice with { Rework = slice.Rework with { SpacingTimes = Math.Abs(times - 1) < NearEnough ? null : times, Mode = ResizeMode.Respace, WithoutUnderlay = lightly } };
    }
}
