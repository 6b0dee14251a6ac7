using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Respacing;

/// <summary>What another size does to stitches, in a sentence.</summary>
/// <param name="Says">What is so and why.</param>
/// <param name="Serious">Whether it is likely to spoil the work.</param>
/// <param name="At">Where it is seen first, in the blob's own place at its size, mm; null where it is so everywhere.</param>
public sealed record ResizeWarning(string Says, bool Serious, Point? At = null)
{
    /// <summary>Stretched stitches are warned of beyond this, as a part of 1.</summary>
    public const double MostStretch = 0.20;

    /// <summary>Shapes and re-spaced stitches are warned of beyond this, as a part of 1.</summary>
    public const double MostRespace = 0.25;

    // Less than this part of the stitches that was not understood is not worth a word.
    private const double FewNotUnderstood = 0.03;

    private const double DensestSpacing = 0.28;
    private const double LightestSpacing = 0.55;
    private const double Needle = 0.75;

    /// <summary>All warnings for bought stitches at a size.</summary>
    public static ImmutableArray<ResizeWarning> For(ReadStitches read, Sizing size, Rework rework)
    {
        if (size.IsOriginal) return [];
        var found = ImmutableArray.CreateBuilder<ResizeWarning>();
        var change = Change(size);
        var stretched = rework.Mode == ResizeMode.Stretch || read.Confidence < Passage.Sure;
        var unknown = read.NotUnderstood;
        if (rework.Mode == ResizeMode.Respace && unknown > FewNotUnderstood && change > MostStretch)
        {
            found.Add(new($"{(unknown > 0.97 ? "How these stitches are laid" : $"How {Math.Max(1, Math.Round(unknown * 100)):0} % of these stitches are laid")} was not understood, so at {Percent(size)} every one of them is kept, {(size.OfLength < 1 ? "closer together: the thread may break. Stay above 80 %." : "farther apart: the cloth will show through. Stay below 120 %.")}", true));
        }
        else if (stretched && change > MostStretch)
        {
            var spacing = read.SpacingMm * size.OfLength;
            found.Add(new(size.OfLength < 1
                ? $"Stretched to {Percent(size)}, every stitch is kept closer together{(spacing > 0 ? $": rows {Mm(spacing)} mm apart" : string.Empty)}. The thread may break and the cloth be cut. Re-space it, or stay above {100 * (1 - MostStretch):0} %."
                : $"Stretched to {Percent(size)}, every stitch is longer and farther apart{(spacing > 0 ? $": rows {Mm(spacing)} mm apart" : string.Empty)}, so the cloth will show through. Re-space it, or stay below {100 * (1 + MostStretch):0} %.",
                spacing is > 0 and < DensestSpacing or > LightestSpacing));
        }
        else if (!stretched && change > MostRespace)
        {
            found.Add(new($"{Percent(size)} is far from how it was made. The spacing stays right, but details were drawn for another size. Sew a trial.", false));
        }

        if (Fine(read, size) is { } fine) found.Add(fine);
        if (Wide(read, size) is { } wide) found.Add(wide);
        return found.ToImmutable();
    }

    /// <summary>All warnings for a drawn shape at a size.</summary>
    public static ImmutableArray<ResizeWarning> ForShape(Sizing size) => Change(size) > MostRespace
        ? [new($"{Percent(size)} is far from how it was drawn. Its stitches are made anew, but corners and gaps grow with it. Look it over.", false)]
        : [];

    private static double Change(Sizing size) => Math.Max(Math.Max(size.Across, size.Down) - 1, 1 - Math.Min(size.Across, size.Down));

    /// <summary>Throws and lines that become too fine to sew.</summary>
    private static ResizeWarning? Fine(ReadStitches read, Sizing size)
    {
        if (size.OfLength >= 1) return null;
        var (count, at, least) = (0, default(Point?), double.PositiveInfinity);
        foreach (var passage in read.Passages.Where(p => p.Kind == PassageKind.Satin && !p.IsUnder))
        {
            foreach (var rung in passage.Rungs)
            {
                var (a, b) = (read.Stitches.At(rung.First), read.Stitches.At(rung.Last));
                var (was, width) = (a.DistanceTo(b), size.Apply(a).DistanceTo(size.Apply(b)));
                if (was < Limits.NarrowestSatin || width >= Needle) continue;
                at ??= size.Apply(a);
                count++;
                least = Math.Min(least, width);
            }
        }

        return count < 6 ? null : new($"{count.ToString("N0", CultureInfo.InvariantCulture)} throws of satin become narrower than a needle ({Mm(least)} mm at the least). Fine detail will close up there.", true, at);
    }

    /// <summary>Throws that become too wide.</summary>
    private static ResizeWarning? Wide(ReadStitches read, Sizing size)
    {
        if (size.OfLength <= 1) return null;
        var (count, at) = (0, default(Point?));
        foreach (var passage in read.Passages.Where(p => p.Kind == PassageKind.Satin))
        {
            foreach (var rung in passage.Rungs)
            {
                var (a, b) = (read.Stitches.At(rung.First), read.Stitches.At(rung.Last));
                if (a.DistanceTo(b) > Limits.LongestThrow || size.Apply(a).DistanceTo(size.Apply(b)) <= Limits.LongestThrow) continue;
                at ??= size.Apply(a);
                count++;
            }
        }

        return count < 6 ? null : new($"{count.ToString("N0", CultureInfo.InvariantCulture)} throws of satin become wider than {Limits.LongestThrow:0} mm and are split, so that they do not snag; the sheen changes there.", false, at);
    }

    private static string Percent(Sizing size) => size.IsEven
        ? $"{(size.Across * 100).ToString("0.#", CultureInfo.InvariantCulture)} %"
        : $"{(size.Across * 100).ToString("0.#", CultureInfo.InvariantCulture)} % across and {(size.Down * 100).ToString("0.#", CultureInfo.InvariantCulture)} % down";

    private static string Mm(double v) => v.ToString("0.00", CultureInfo.InvariantCulture);
}
