using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Threads;
using EvenThimble.Web.Workroom;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>What the Monogram card shows: the monogram that is selected, or a new one that begins like the last of the job.</summary>
/// <param name="Bench">The bench.</param>
/// <param name="Piece">The selected monogram; null: a new one.</param>
/// <param name="Wish">What is wanted.</param>
/// <param name="Font">In which font.</param>
/// <param name="Way">How its letters are stitched.</param>
public sealed record MonogramCard(BenchView Bench, Piece? Piece, MonogramWish Wish, string Font, StitchWay Way)
{
    /// <summary>Between letters and frame unless another distance is wanted, mm.</summary>
    public const double UsualGapMm = 3;

    /// <summary>Between letters unless another distance is wanted, as part of their size.</summary>
    public const double UsualLetterGap = 0.03;

    private const double UsualSizeMm = 70;

    // Frames are sewn in a thread like this unless another is chosen.
    private static readonly Rgb FrameLook = Rgb.FromInt(0xC9962B);

    /// <summary>Ways that letters can be stitched in.</summary>
    public static IReadOnlyList<StitchWay> Ways { get; } = [StitchWay.Automatic, StitchWay.Satin, StitchWay.Fill, StitchWay.PatternedFill, StitchWay.Run, StitchWay.TripleRun];

    /// <summary>The monogram that is selected.</summary>
    public MonogramContent? Monogram => Piece?.Content as MonogramContent;

    /// <summary>What its letters are sewn with unless another thread is chosen.</summary>
    public SewingThread Thread => Monogram?.Thread ?? LettersCard.ThreadFor(Bench);

    /// <summary>What stands in the field of letters.</summary>
    public string Typed => Wish.Name ?? string.Concat(Wish.Letters);

    /// <summary>The letters that pictures are drawn with.</summary>
    public string Shown => Wish.Letters.IsEmpty ? "OMT" : string.Concat(Wish.Letters);

    /// <summary>Fonts to choose from.</summary>
    public IReadOnlyList<string> Fonts => [.. Bench.Get<LetterFonts>().All.Select(f => f.Name)];

    /// <summary>What a frame is sewn with where nothing else is said.</summary>
    public static SewingThread FrameThreadFor(BenchView bench) => DrawingCard.Nearest(bench, FrameLook);

    /// <summary>The card for what is selected.</summary>
    public static MonogramCard Of(BenchView bench)
    {
        var pieces = bench.Selected.Select(p => p.Piece).Distinct().ToList();
        if (pieces is [var one] && bench.Job.Pieces.First(p => p.Id == one) is { Content: MonogramContent monogram } piece) return new(bench, piece, monogram.Wish, monogram.Font, monogram.Way);
        var last = bench.Job.Pieces.Select(p => p.Content).OfType<MonogramContent>().LastOrDefault();
        var font = last?.Font ?? bench.Get<LetterFonts>().LastUsed(1).FirstOrDefault()?.Name ?? Rendering.Fonts.InstalledFonts.All[0].Name;
        return new(bench, null, new MonogramWish(ImmutableArray<string>.Empty, last?.Wish.Layout ?? MonogramLayout.Find("circle")!) { SizeMm = last?.Wish.SizeMm ?? UsualSizeMm, Frame = last?.Wish.Frame, Order = last?.Wish.Order ?? InitialOrder.FamilyInMiddle }, font, StitchWay.Automatic);
    }

    /// <summary>A length in the unit of the person.</summary>
    public string Length(double mm) => Core.Text.LengthText.Number(mm, Bench.Look.Unit);
}
