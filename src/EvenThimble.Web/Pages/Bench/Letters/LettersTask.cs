using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Text as thread: written here, laid on a line, a ring, an arc or a guide path, bent to a shape, its letters set apart by hand, and changed again at any time.</summary>
public sealed class LettersTask : BenchTask
{
    // One press of nearer or farther, or of moving a letter, in heights of a capital.
    private const double GapStep = 0.02;
    // One press of turning, degrees, and of smaller or larger.
    private const double TurnStep = 2;
    private const double SizeStep = 1.03;
    private const int MostPathPoints = 4_000;

    /// <summary>Chosen as a guide: the line that came with the form, drawn for these letters only.</summary>
    public const string DrawnHere = "drawn";

    /// <summary>Chosen as the one thread of letters of a set: that of most of them.</summary>
    public const string UsualOfSet = "usual";

    private sealed record LetterForm(
        int? Piece, string? Text, string? Font, string? Height, string? Width, string? BlockHeight, LetterAlign Align, string? Lines, string? Letters, string? Words, string? Slant, string? Turn, string? Course, string? Ring, string? RingStart,
        bool Inward, string? Arc, string? Guide, string? GuideLine, bool GuideClosed, bool OtherWay, string? Bend, string? Amount, bool Stacked, bool Optical, bool Kerning, bool OwnKerning, string? Way, string? Outline, bool OutlineAlone, int? OutlineThread,
        string? SetThread, bool Apart, double? X, double? Y);

    private sealed record GapForm(int Piece, string? Left, string? Right, string? Gap, int Steps);

    private sealed record NudgeForm(int Piece, int Letter, string? By);

    private sealed record PieceForm(int Piece);

    public override string Id => "letters";

    public override string Name => "Letters";

    public override string Icon => "bi-type";

    public override char? Key => '4';

    public override string Focus => "letters-text";

    public override string Says => "Write text as thread";

    public override object CardFor(BenchView bench) => LettersCard.Of(bench);

    public override IReadOnlyList<Command> Commands { get; } =
    [
        Command.Of<LetterForm>("write", "Write", Written) with { Selects = SelectedAfter.WhatCameIn, KeepsTyped = true, Previews = true, Afterwards = NoteFont },
        Command.Of<GapForm>("set-gap", "Set the gap between two letters", GapSet),
        Command.Of<NudgeForm>("nudge", "Set a letter by hand", Nudged),
        Command.Of<PieceForm>("take-gaps", "Take the gaps that are kept for the font", (bench, form) =>
        {
            var (piece, content, hand) = LetteringOf(bench, form.Piece);
            return new ChangeLettering(piece.Id, hand.Relaid(content, content.Wish with { Pairs = bench.Get<FontStore>().KerningOf(hand.Name).UsedIn(content.Wish.Text) }));
        }),
        Command.Of<PieceForm>("from-centre", "Sew letters from the centre", (bench, form) => new OrderLetters(PieceOf(bench, form.Piece).Id, FromCentre: true)),
        Command.Of<PieceForm>("as-read", "Sew letters as they are read", (bench, form) => new OrderLetters(PieceOf(bench, form.Piece).Id, FromCentre: false)),
        Command.Of("put-back", "Put letters back", bench => new PutLettersBack(bench.ChosenIds())),
    ];

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Parts { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        // The fonts to choose from, each opened and measured.
        ["fonts"] = (bench, request) => Task.FromResult(request.Partial("Letters/_FontList", LettersCard.Of(bench))),
    };

    public override IReadOnlyDictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>> Sent { get; } = new Dictionary<string, Func<BenchView, PartRequest, Task<IActionResult>>>
    {
        // The gap of a pair in this lettering, kept for whatever is written in its font from now on.
        ["keep-gap"] = (bench, request) => Task.FromResult(GapKept(bench, request)),
    };

    private static JobEdit Written(BenchView bench, LetterForm form)
    {
        var hand = LetterHand.Of(bench, form.Font);
        var piece = form.Piece is { } number ? PieceOf(bench, number) : null;
        var before = (ITextContent?)piece?.Content;
        var wish = WishOf(bench, form, before);
        wish = wish with { Pairs = PairsFor(bench.Get<FontStore>().KerningOf(hand.Name), wish.Text, before is not null && before.Font == hand.Name ? before.Wish : null) };
        if (before is { Wish: var was }) wish = wish with { Nudges = was.Nudges.Following(was.Text, wish.Text) };
        wish.Check();
        var outline = StitchWays.TryParse(form.Outline, out var line) ? new LetterOutline(line, form.OutlineAlone) : null;
        var way = StitchWays.TryParse(form.Way, out var chosen) ? chosen : StitchWay.Automatic;
        var content = hand.Write(wish, new(way, LettersCard.ThreadFor(bench), outline, bench.PaletteThread(form.OutlineThread), w => new(SetThreadOf(bench, form.SetThread, w), !form.Apart)), before);
        return piece is null ? new AddLettering(content, PlaceFor(form, wish)) : new ChangeLettering(piece.Id, content);
    }

    /// <summary>The one thread that letters of a set are to be sewn in; null: each as it came.</summary>
    private static SewingThread? SetThreadOf(BenchView bench, string? typed, LetterSetContent content) =>
        typed == UsualOfSet ? content.ThreadsAsCame[0] : int.TryParse(typed, System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var number) ? bench.PaletteThread(number) : null;

    /// <summary>The pairs of a text: those that it had, and of letters that it did not have side by side those that are kept for the font.</summary>
    private static KerningTable PairsFor(KerningTable kept, string text, LetteringWish? before)
    {
        var used = kept.UsedIn(text);
        if (before is null) return used;
        var known = kept.UsedIn(before.Text);
        return used.Pairs.Where(p => known.Between(p.Left, p.Right) is null).Aggregate(before.Pairs, (table, p) => table.With(p.Left, p.Right, p.Share));
    }

    private static void NoteFont(BenchView bench, JobEdit edit)
    {
        if ((edit is AddLettering added ? added.Content : (edit as ChangeLettering)?.Content) is { } content) bench.Get<FontStore>().Use(content.Font);
    }

    private static ChangeLettering GapSet(BenchView bench, GapForm form)
    {
        var (piece, content, hand) = LetteringOf(bench, form.Piece);
        var face = hand.FaceAt(content.CapitalMm);
        var (left, right) = (form.Left ?? string.Empty, form.Right ?? string.Empty);
        var now = LetteringLayout.KerningOf(content.Wish, face.Font, left, right, face.Optical) ?? throw new EditRefusedException("Those two letters do not stand side by side in this font.");
        var share = form.Steps != 0 ? now + (form.Steps * GapStep) : BenchView.Percent(form.Gap ?? string.Empty) / 100;
        var edit = new ChangeLettering(piece.Id, hand.Relaid(content, content.Wish with { OwnKerning = true, Pairs = content.Wish.Pairs.With(left, right, share) }));

        // A letter that was pulled there by hand now stands where its text has it.
        return bench.Selected is [var pulled] && pulled.Piece == piece.Id ? edit with { PutsBack = pulled.Id } : edit;
    }

    private static ChangeLettering Nudged(BenchView bench, NudgeForm form)
    {
        var (piece, content, hand) = LetteringOf(bench, form.Piece);
        if (form.Letter < 0 || form.Letter >= content.Wish.Text.Length) throw new EditRefusedException("That letter is no longer in this text.");
        var now = content.Wish.Nudges.At(form.Letter);
        var then = form.By switch
        {
            "left" => now with { Along = now.Along - GapStep },
            "right" => now with { Along = now.Along + GapStep },
            "up" => now with { Down = now.Down - GapStep },
            "down" => now with { Down = now.Down + GapStep },
            "anticlockwise" => now with { TurnDegrees = now.TurnDegrees - TurnStep },
            "clockwise" => now with { TurnDegrees = now.TurnDegrees + TurnStep },
            "smaller" => now with { Size = now.Size / SizeStep },
            "larger" => now with { Size = now.Size * SizeStep },
            "back" => LetterNudge.None,
            _ => throw new EditRefusedException("A letter can be moved, turned, made smaller or larger, or put back."),
        };
        return new ChangeLettering(piece.Id, hand.Relaid(content, content.Wish with { Nudges = content.Wish.Nudges.With(form.Letter, then) }));
    }

    private static IActionResult GapKept(BenchView bench, PartRequest request)
    {
        try
        {
            var form = PostedForm.Read<GapForm>(request.Http.SentForm());
            var (_, content, hand) = LetteringOf(bench, form.Piece);
            var face = hand.FaceAt(content.CapitalMm);
            var (left, right) = (form.Left ?? string.Empty, form.Right ?? string.Empty);
            var share = LetteringLayout.KerningOf(content.Wish, face.Font, left, right, face.Optical) ?? throw new EditRefusedException("Those two letters do not stand side by side in this font.");
            var store = bench.Get<FontStore>();
            store.Keep(face.Name, store.KerningOf(face.Name).With(left, right, share));
            return request.Answer(bench, $"Kept: {left}{right} in {face.Name} stands so in all that is written from now on.");
        }
        catch (EditRefusedException e)
        {
            return request.Answer(bench, e.Message, StatusCodes.Status422UnprocessableEntity);
        }
    }

    private static (Piece Piece, ITextContent Content, LetterHand Hand) LetteringOf(BenchView bench, int number) =>
        PieceOf(bench, number) is { Content: ITextContent content } piece ? (piece, content, LetterHand.Of(bench, content.Font)) : throw Gone();

    private static Piece PieceOf(BenchView bench, int number) => bench.Job.Pieces.FirstOrDefault(p => p.Id.Value == number && p.Content is ITextContent) ?? throw Gone();

    private static EditRefusedException Gone() => new("That lettering is no longer in this job.");

    private static LetteringWish WishOf(BenchView bench, LetterForm form, ITextContent? before) => new(new string([.. (form.Text ?? string.Empty).ReplaceLineEndings("\n").Where(c => c == '\n' || !char.IsControl(c))]).TrimEnd())
    {
        CapitalMm = bench.Typed(form.Height),
        WidthMm = string.IsNullOrWhiteSpace(form.Width) ? null : bench.Typed(form.Width),
        HeightMm = string.IsNullOrWhiteSpace(form.BlockHeight) || !string.IsNullOrWhiteSpace(form.Width) ? null : bench.Typed(form.BlockHeight),
        Align = form.Align,
        LineSpacing = Part(form.Lines, 100),
        LetterSpacing = Part(form.Letters, 0),
        WordSpacing = Part(form.Words, 100),
        SlantDegrees = Angle(form.Slant),
        TurnDegrees = Angle(form.Turn),
        Course = form.Course switch
        {
            "ring" => new LetterCourse.OnRing(bench.Typed(form.Ring), Angle(form.RingStart), form.Inward),
            "arc" => new LetterCourse.OnArc(Angle(form.Arc)),
            "path" => GuidePath(bench, form, before),
            _ => LetterCourse.Straight,
        },
        Bend = BendShape.Find(form.Bend) is { } shape ? new(shape, Part(form.Amount, 50)) : null,
        Stacked = form.Stacked,
        OpticalSpacing = form.Optical,
        FontKerning = form.Kerning,
        OwnKerning = form.OwnKerning,
    };

    /// <summary>The line that letters are to follow: drawn for them, or that of a shape of the job; where none is chosen anew, the one that they follow already.</summary>
    private static LetterCourse.OnPath GuidePath(BenchView bench, LetterForm form, ITextContent? before)
    {
        if (string.IsNullOrWhiteSpace(form.Guide))
        {
            return before?.Wish.Course as LetterCourse.OnPath ?? throw new EditRefusedException("Letters follow a line. Draw one on the cloth, or click a line or shape that is there.");
        }

        var place = form.Piece is { } piece ? bench.Job.Pieces.FirstOrDefault(p => p.Id.Value == piece)?.Placement ?? Placement.AsItCame : Placement.AsItCame;
        return form.Guide == DrawnHere
            ? Along(ShapePath.Through(PlacesOf.Line(form.GuideLine), form.GuideClosed, NodeKind.Smooth), Placement.AsItCame, place, form.OtherWay)
            : LineOf(bench, form.Guide) is var (path, lies) ? Along(path, lies, place, form.OtherWay) : null!;
    }

    /// <summary>A guide path along the line of a drawn part, by its number.</summary>
    /// <param name="bench">The bench.</param>
    /// <param name="part">The number of the part.</param>
    /// <param name="place">Where the letters' own piece lies.</param>
    public static LetterCourse.OnPath PathAlong(BenchView bench, string part, Placement place) => LineOf(bench, part) is var (path, lies) ? Along(path, lies, place, otherWay: false) : null!;

    private static LetterCourse.OnPath Along(ShapePath path, Placement lies, Placement place, bool otherWay)
    {
        var points = path.Flattened().ConvertAll(lies.Place);
        if (path.Closed) points.Add(points[0]);
        if (points.Count > MostPathPoints) throw new EditRefusedException($"That line has {points.Count:N0} points, more than letters can follow. Draw a simpler one.");
        if (otherWay) points.Reverse();

        // The path lies where it is in the job; the lettering's own place is taken off.
        return new([.. points.Select(place.Unplace).Select(p => new Point(Math.Round(p.X, 4), Math.Round(p.Y, 4)))]);
    }

    /// <summary>The longest line of a drawn part, and where the part lies.</summary>
    private static (ShapePath Path, Placement Lies) LineOf(BenchView bench, string part) =>
        int.TryParse(part, out var number) && bench.Job.Order.Find(new(number)) is { Drawn: { } drawn } found && drawn.Shape.Paths.Length > 0
            ? (drawn.Shape.Paths.MaxBy(p => Polylines.Length(p.Flattened()))!, found.Placement)
            : throw new EditRefusedException("That shape is no longer in this job. Choose another line to follow.");

    /// <summary>Where a new lettering lies: about the place that was clicked; a guide path lies where it is.</summary>
    private static Placement PlaceFor(LetterForm form, LetteringWish wish) =>
        wish.Course is not LetterCourse.OnPath && form is { X: { } x, Y: { } y } && double.IsFinite(x) && double.IsFinite(y) ? new(Math.Round(x, 3), Math.Round(y, 3), 0) : Placement.AsItCame;

    private static double Part(string? percent, double usual) => string.IsNullOrWhiteSpace(percent) ? usual / 100 : BenchView.Percent(percent) / 100;

    private static double Angle(string? degrees) => string.IsNullOrWhiteSpace(degrees) ? 0 : BenchView.Degrees(degrees);
}
