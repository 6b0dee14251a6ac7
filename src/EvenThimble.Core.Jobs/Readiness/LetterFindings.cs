using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Readiness;

/// <summary>Looks letterings over: whether they are as large as their font needs, their strokes fit to be satin, and their letters far enough apart to sew.</summary>
internal static class LetterFindings
{
    // Satin is split up to this width; beyond that it snags, mm.
    private const double WidestSatin = 10;

    // Letters nearer than this run together in thread, where they do over more than a serif, mm.
    private const double LeastApart = 0.2;
    private const double MoreThanSerif = 1.5;

    // A letter is nearer to its usual size than this part of it: nobody has sized it by hand.
    private const double SizedFrom = 0.02;

    // More room between letters is looked for in steps of this, heights of a capital.
    private const double SpacingStep = 0.04;
    private const int MostSteps = 12;

    /// <summary>The findings about all letterings of a job, at most one of each kind for each.</summary>
    /// <param name="job">The job.</param>
    /// <param name="faces">The fonts at hand; without its font a lettering is not looked at.</param>
    public static IEnumerable<Finding> Of(Job job, ILetterFaces faces)
    {
        foreach (var piece in job.Pieces)
        {
            if (piece.Content is not LetteringContent content || Find(faces, content.Font) is not { } face) continue;
            foreach (var finding in new[] { TooSmall(job, piece, content, face, faces), SatinTooLong(job, piece, content, face), SatinTooFine(job, piece, content, face), TooClose(piece, content, face) }.OfType<Finding>()) yield return finding;
        }
    }

    /// <summary>Texts of letter sets in which letters are missing: a gap is left where they would stand.</summary>
    public static IEnumerable<Finding> Missing(Job job) =>
        from piece in job.Pieces
        let written = piece.Content as LetterSetContent
        where written is { Missing.Length: > 0 } && job.Order.Any(p => p.Piece == piece.Id)
        select new Finding($"letters-missing-{piece.Id.Value}", FindingLevel.Attention,
            $"{written.Set} has no {string.Join(' ', written.Missing)}; in “{piece.Name}” a gap is left there.",
            "Add its file to the set, write the word otherwise, or choose a font.");

    /// <summary>A font; null where it is not here or its file cannot be read.</summary>
    public static LetterFace? Find(ILetterFaces faces, string font)
    {
        try
        {
            return faces.Find(font);
        }
        catch (StitchFileException)
        {
            return null; // it is told where one writes with it
        }
    }

    private static Finding? TooSmall(Job job, Piece piece, LetteringContent content, LetterFace face, ILetterFaces faces)
    {
        var (capital, good) = (content.CapitalMm * SizeOf(job, piece), face.Measure.SmallestGoodMm);
        if (capital > good - 0.05) return null;
        var remedies = new List<Remedy>();
        if (Laid(content, face, content.Wish with { CapitalMm = good, WidthMm = null, HeightMm = null }) is { } larger) remedies.Add(new($"letters-larger-{piece.Id.Value}", $"Capitals of {Mm(good)}", new ChangeLettering(piece.Id, larger)));
        if (Find(faces, StrokeFont.Small.Name) is { } small && small.Name != face.Name && capital >= small.Measure.SmallestGoodMm - 0.05 && content.Outline is null && Laid(content, small, content.Wish with { Pairs = KerningTable.Empty }) is { } other)
            remedies.Add(new($"letters-small-font-{piece.Id.Value}", $"Write it in {small.Name}", new ChangeLettering(piece.Id, other)));
        return new($"letters-small-{piece.Id.Value}", FindingLevel.Attention,
            $"The letters of “{piece.Name}” are small for {face.Name}: capitals of {Mm(capital)}, and it sews well from {Mm(good)}.",
            "Thin strokes would fill up or fall away. Make them larger, or take a font for small text.")
        {
            Remedies = [.. remedies],
        };
    }

    private static Finding? SatinTooLong(Job job, Piece piece, LetteringContent content, LetterFace face)
    {
        if (content.Way != StitchWay.Satin || content.Letters == 0) return null;
        var widest = face.Measure.ThickEm / face.Measure.CapitalEm * content.CapitalMm * SizeOf(job, piece);
        if (widest <= WidestSatin) return null;
        return new($"letters-long-{piece.Id.Value}", FindingLevel.Attention,
            $"The strokes of “{piece.Name}” are up to {Mm(widest)} wide, too wide for satin.",
            "Such long throws snag, even split. Sew them in rows.")
        {
            Remedies = Ways(piece, content, face, (StitchWay.Fill, "Fill instead of satin"), (StitchWay.Automatic, "Leave it to their widths")),
        };
    }

    private static Finding? SatinTooFine(Job job, Piece piece, LetteringContent content, LetterFace face)
    {
        if (content.Way is not (StitchWay.Satin or StitchWay.Fill) || content.Letters == 0 || face.Measure.OfPen) return null;
        var usual = face.Measure.UsualEm / face.Measure.CapitalEm * content.CapitalMm * SizeOf(job, piece);
        if (content.Way == StitchWay.Satin && usual >= Limits.NarrowestSatin * 0.8) return null;
        if (content.Way == StitchWay.Fill && usual >= 2 * Limits.NarrowestSatin) return null;
        return new($"letters-fine-{piece.Id.Value}", FindingLevel.Attention,
            $"The strokes of “{piece.Name}” are {Mm(usual)} wide, too fine for {content.Way.InWords()}.",
            content.Way == StitchWay.Fill ? "Rows need room to turn. Sew them in satin." : "Satin so narrow cuts the cloth. Sew them as a run, or make them larger.")
        {
            Remedies = content.Way == StitchWay.Fill ? Ways(piece, content, face, (StitchWay.Satin, "Satin instead of fill")) : Ways(piece, content, face, (StitchWay.TripleRun, "Triple run instead of satin")),
        };
    }

    private static Finding? TooClose(Piece piece, LetteringContent content, LetterFace face)
    {
        var close = Close(content);
        if (close.Count == 0) return null;
        var wider = Enumerable.Range(1, MostSteps)
            .Select(n => Laid(content, face, content.Wish with { LetterSpacing = content.Wish.LetterSpacing + (n * SpacingStep) }))
            .TakeWhile(c => c is not null).FirstOrDefault(c => Close(c!).Count == 0);
        return new($"letters-close-{piece.Id.Value}", FindingLevel.Attention,
            $"In “{piece.Name}” {(close.Count == 1 ? "two letters stand" : $"{close.Count + 1} letters stand")} so close that they run together when sewn: {string.Join(", ", close.Take(4))}{(close.Count > 4 ? " and others" : string.Empty)}.",
            "Give them more room, or larger letters.")
        {
            Remedies = wider is null ? [] : [new($"letters-apart-{piece.Id.Value}", "More room between letters", new ChangeLettering(piece.Id, wider))],
        };
    }

    /// <summary>Neighbours that do not touch and yet lie too near to each other, by their letters.</summary>
    private static List<string> Close(LetteringContent content)
    {
        var close = new List<string>();
        (DrawingShape Letter, IReadOnlyList<Area> Areas, Box Box)? before = null;
        foreach (var letter in content.Shapes.Take(content.Letters))
        {
            var placed = letter.Shape.Moved(letter.At.Place);
            (DrawingShape Letter, IReadOnlyList<Area> Areas, Box Box) now = (letter, Area.Of(placed.Paths.Where(p => p.Closed).Select(p => p.Flattened()), placed.Rule), placed.Bounds);
            if (before is var (left, areas, box) && box.Grown(LeastApart).Meets(now.Box) && areas.Any(a => now.Areas.Any(b => RunTogether(a, b)))) close.Add(left.Name + letter.Name);
            before = now;
        }

        return close;
    }

    private static bool RunTogether(Area one, Area other) =>
        one.DistanceTo(other) is > 0 and < LeastApart && one.Within(other.Grown(LeastApart)).Areas.Any(shared => Math.Max(shared.Bounds.Width, shared.Bounds.Height) > MoreThanSerif);

    private static ImmutableArray<Remedy> Ways(Piece piece, LetteringContent content, LetterFace face, params (StitchWay Way, string Label)[] ways) =>
    [
        .. ways.Select(w => (w, Content: Laid(content, face, content.Wish, w.Way))).Where(w => w.Content is not null)
            .Select(w => new Remedy($"letters-{w.w.Way.ToString().ToLowerInvariant()}-{piece.Id.Value}", w.w.Label, new ChangeLettering(piece.Id, w.Content!))),
    ];

    private static LetteringContent? Laid(LetteringContent content, LetterFace face, LetteringWish wish, StitchWay? way = null)
    {
        try
        {
            return LetteringContent.Lay(wish, face, new(way, content.Thread, content.Outline), content);
        }
        catch (EditRefusedException)
        {
            return null; // a ring would be too small for it, for instance
        }
    }

    /// <summary>How many times as large as its text has them most letters of a piece are, made so by hand.</summary>
    private static double SizeOf(Job job, Piece piece)
    {
        var sizes = job.Order.Where(p => p.Piece == piece.Id).Select(p => p.Placement.Size.OfLength).Order().ToList();
        return sizes.Count == 0 || Math.Abs(sizes[sizes.Count / 2] - 1) < SizedFrom ? 1 : sizes[sizes.Count / 2];
    }

    private static string Mm(double mm) => $"{LengthText.Decimals(mm, 1)} mm";
}
