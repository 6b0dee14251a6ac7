using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>How laid cloth is held before it is covered.</summary>
public enum TackDownWay : byte
{
    /// <summary>A zigzag over the edge.</summary>
    Zigzag,

    /// <summary>A line sewn threefold.</summary>
    TripleRun,

    /// <summary>A single line.</summary>
    Run,
}

/// <summary>What an appliqué is made of besides its outline.</summary>
/// <param name="TackDown">How the cloth is held.</param>
/// <param name="CoverMm">Width of the satin that covers the edge, mm.</param>
/// <param name="CutBefore">The cloth is cut before it is laid, so that nothing has to be trimmed.</param>
public sealed record AppliqueWish(TackDownWay TackDown = TackDownWay.Zigzag, double CoverMm = 3.5, bool CutBefore = true);

/// <summary>Makes an appliqué of each shape: its outline becomes a placement line, a tack-down and a cover, with stops to lay the cloth and to trim it; cloth that is cut before is cut along the placement lines. Letters become shapes of their own by it.</summary>
public sealed record MakeApplique(IReadOnlySet<PartId> Parts, AppliqueWish Wish) : PartsEdit(Parts)
{
    /// <summary>Width of the zigzag that holds the cloth, mm.</summary>
    public const double ZigzagMm = 1.8;

    /// <summary>Between its throws, mm.</summary>
    public const double ZigzagSpacingMm = 1.2;

    private static readonly (string Ending, PartRole Role)[] Steps = [("placement", PartRole.PlacementLine), ("tack-down", PartRole.TackDown), ("cover", PartRole.Cover)];

    /// <inheritdoc/>
    protected override Job Change(Job job)
    {
        if (!SettingRange.Width.Holds(Wish.CoverMm)) throw SettingRange.Width.Refused(LengthText.Decimals(Wish.CoverMm, 2));
        var chosen = job.Order.Where(p => Parts.Contains(p.Id)).ToList();
        if (chosen.Find(p => p.Drawn is null) is { } bought) throw new EditRefusedException($"“{bought.Name}” came as plain stitches; its lines are cut as they are. Choose shapes or letters.");
        if (chosen.Find(p => !p.Drawn!.Shape.IsClosed) is { } open) throw new EditRefusedException($"“{open.Name}” is an open line, which no cloth fills. Choose a closed shape.");
        if (job.Order.Count + (2 * chosen.Count) > Job.MostParts) throw new EditRefusedException($"A job can have {Job.MostParts:N0} parts; that would be more.");
        var shapes = chosen.SelectMany(ShapesOf).ToImmutableArray();
        var first = job.Order.TakeWhile(p => !Parts.Contains(p.Id)).Count();
        var name = chosen.Count == 1 ? chosen[0].Name : job.Pieces.First(p => p.Id == chosen[0].Piece).Name;
        var without = new RemoveParts(Parts).Apply(job);
        var made = without.With($"{name}, appliqué", new DrawingContent(shapes), Placement.AsItCame);
        var piece = made.Pieces[^1].Id;
        var its = made.Order.Where(p => p.Piece == piece).Select((part, n) => part with { Role = Steps[n % 3].Role, StopAfter = StopAfter(chosen[n / 3].Name, n % 3) }).ToList();
        var cut = Wish.CutBefore ? made.Cutting with { Parts = [.. made.Cutting.Parts.Where(p => made.Order.Find(p) is not null), .. its.Where(p => p.Role == PartRole.PlacementLine).Select(p => p.Id)], ByHand = [] } : made.Cutting;
        return made with { Cutting = cut, Order = new([.. made.Order.Where(p => p.Piece != piece).Take(first), .. its, .. made.Order.Where(p => p.Piece != piece).Skip(first)]) };
    }

    /// <inheritdoc/>
    public override string Label(Job before) => $"Made an appliqué of {Named(before)}";

    private string? StopAfter(string name, int step) => step switch
    {
        0 => Shown(Wish.CutBefore ? $"Lay the cut cloth: {name}" : $"Lay the cloth over the line: {name}"),
        1 when !Wish.CutBefore => Shown($"Trim the cloth close to the stitches: {name}"),
        _ => null,
    };

    /// <summary>A message as far as a machine shows it.</summary>
    private static string Shown(string message)
    {
        var shown = Titles.Clean(message);
        while (!JobRules.IsStopMessage(shown)) shown = shown[..^1].TrimEnd();
        return shown;
    }

    private IEnumerable<DrawingShape> ShapesOf(Part part, int number)
    {
        var drawn = part.Drawn!;
        var outline = drawn.Shape with { Paths = [.. drawn.Shape.Paths.Where(p => p.Closed)] };
        StitchSettings[] ways =
        [
            new(StitchWay.Run),
            Wish.TackDown switch
            {
                TackDownWay.Zigzag => new(StitchWay.LineSatin) { WidthMm = ZigzagMm, SpacingMm = ZigzagSpacingMm, Underlay = UnderlayLayers.None, CompensationMm = 0 },
                TackDownWay.TripleRun => new(StitchWay.TripleRun),
                _ => new(StitchWay.Run),
            },
            new(StitchWay.LineSatin) { WidthMm = Wish.CoverMm },
        ];
        return Steps.Select((step, n) => new DrawingShape(PartKey.Numbered((3 * number) + n + 1), $"{part.Name}, {step.Ending}", outline, ways[n], part.Thread, part.Placement));
    }
}

/// <summary>Lets the machine stop after a part, with a message, or not.</summary>
/// <param name="Parts">After which parts.</param>
/// <param name="Message">What it says; null: it does not stop there, but where the stitches have it.</param>
public sealed record StopAfterParts(IReadOnlySet<PartId> Parts, string? Message) : PartsEdit(Parts)
{
    /// <inheritdoc/>
    protected override Job Change(Job job)
    {
        var message = Message is null ? null : Titles.Clean(Message);
        if (message is { Length: 0 }) throw new EditRefusedException("Write what the machine is to say, such as “Lay the cloth over the line”.");
        if (message is not null && !JobRules.IsStopMessage(message)) throw new EditRefusedException($"A machine shows at most {JobRules.LongestStopMessage} letters. Make it shorter.");
        return job.With(Parts, p => p with { StopAfter = message });
    }

    /// <inheritdoc/>
    public override string Label(Job before) => Message is null ? $"No stop of its own after {Named(before)}" : $"Stops after {Named(before)}: {Titles.Clean(Message)}";
}
