using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>One stretch of a part that came as stitches, with what it was read as.</summary>
/// <param name="Slice">Number of its slice among the part's.</param>
/// <param name="First">Its first record, counted in the slice's blob.</param>
/// <param name="Last">Its last one.</param>
/// <param name="Passage">What it was read as.</param>
/// <param name="Stitches">The slice's stitches.</param>
public sealed record BoughtPassage(int Slice, int First, int Last, Passage Passage, StitchBlob Stitches)
{
    /// <summary>More of one part are not shown at once; the largest are.</summary>
    public const int Most = 24;

    private const int MostPoints = 20_000;

    /// <summary>Its name within the part.</summary>
    public string Key => string.Create(CultureInfo.InvariantCulture, $"{Slice}:{First}:{Last}");

    /// <summary>What it was read as, in words.</summary>
    public string InWords => Passage.Told is { } told ? BoughtReading.InWords(told) : BoughtReading.InWords(Passage);

    /// <summary>What it can be told to be.</summary>
    public IReadOnlyList<ReadAs> Possible => Corrections.Possible(Stitches, Passage);

    /// <summary>How sure that is, in words.</summary>
    public string Sure => Passage.Told is not null ? BoughtReading.Told : BoughtReading.SureInWords(Passage.Confidence) + (Passage.IsUnder ? ", underneath" : string.Empty);

    /// <summary>The stretches of a part in the order they are sewn, ties aside, and how many smaller ones are left out.</summary>
    public static (IReadOnlyList<BoughtPassage> Shown, int More) Of(BenchView bench, Part part)
    {
        var all = bench.Get<JobDesk>().Read(part).SelectMany((read, n) => read.Passages.Where(p => p.Kind != PassageKind.Tie).Select(p => (Slice: n, Read: read, Passage: p, part.Slices[n].First))).ToList();
        var shown = all.OrderByDescending(p => p.Passage.Stitches).Take(Most).OrderBy(p => p.Slice).ThenBy(p => p.Passage.First);
        return ([.. shown.Select(p => new BoughtPassage(p.Slice, p.First + p.Passage.First, p.First + p.Passage.Last, p.Passage, p.Read.Stitches))], Math.Max(0, all.Count - Most));
    }

    /// <summary>What a form names: the part's stretch.</summary>
    /// <exception cref="EditRefusedException">It names none.</exception>
    public static (int Slice, int First, int Last) Named(string key)
    {
        var numbers = key.Split(':');
        return numbers.Length == 3 && Number(numbers[0]) is { } slice && Number(numbers[1]) is { } first && Number(numbers[2]) is { } last
            ? (slice, first, last)
            : throw new EditRefusedException("Those stitches are no longer there. Choose again.");

        static int? Number(string text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;
    }

    /// <summary>Where its stitches lie on the cloth, as they came; of very many every few.</summary>
    public IEnumerable<Point> Line(Part part, IStitchSource stitches)
    {
        var slice = part.Slices[Slice];
        var (blob, place) = (stitches.Get(slice.Blob), slice.In(part.Placement));
        var every = 1 + ((Last - First) / MostPoints);
        return Enumerable.Range(First, Last - First + 1).Where(i => (i - First) % every == 0 || i == Last).Select(i => place.Place(blob.At(i)));
    }
}
