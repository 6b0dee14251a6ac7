using System.Text.Json;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>A hoop field on the cloth: its edge as x and y in turn, its middle, and the number of its hooping; 0 where there is one.</summary>
public sealed record ScreenField(int Number, double X, double Y, IReadOnlyList<double> Edge);

/// <summary>A seam on the cloth: between which hoopings, from 0, and its places, x and y in turn.</summary>
public sealed record ScreenSeam(int First, int Second, IReadOnlyList<double> Line);

/// <summary>What the script knows of a job beside its parts.</summary>
public sealed record ScreenState(
    long Job, long Version, string Plan, string Unit, int Speed, string ClothColour, string Weave, IReadOnlyList<ScreenField> Fields, IReadOnlyList<ScreenSeam> Seams, IReadOnlyList<double> Crosses, IReadOnlyList<double> Held)
{
    private const int Decimals = 2;

    /// <summary>Of the bench as it stands.</summary>
    public static ScreenState Of(BenchView bench)
    {
        var (open, machine, hooped) = (bench.Open, bench.Open.Machine, bench.Open.Hooped);
        return new(
            open.Stored.Id, open.Stored.Version, open.PlanTag, LengthText.Name(bench.Look.Unit), machine.StitchesPerMinute,
            open.Job.Cloth.Colour.Hex, open.Job.Cloth.Profile.Weave.ToString().ToLowerInvariant(),
            [.. hooped.Hoopings.Select(h => new ScreenField(hooped.IsDivided ? h.Number : 0, h.Place.Centre.X, h.Place.Centre.Y, Flat(h.Place.Field.Edge().Select(p => p + h.Place.Centre))))],
            [.. hooped.Seams().Select(s => new ScreenSeam(s.First, s.Second, Flat(s.Line)))],
            Flat(hooped.Crosses),
            [.. hooped.Hoopings.SelectMany(h => h.Plan.Parts.Where(p => p.Role == PartRole.Basting && p.Id == default).SelectMany(p => Flat(Enumerable.Range(p.First, p.Count).Where(i => h.Plan.Records.Kinds[i] == StitchKind.Stitch).Select(h.Plan.Records.At))))]);
    }

    private static List<double> Flat(IEnumerable<Point> points) => [.. points.SelectMany(p => new[] { Math.Round(p.X, Decimals), Math.Round(p.Y, Decimals) })];

    /// <summary>As JSON.</summary>
    public string ToJson() => JsonSerializer.Serialize(this, JsonSerializerOptions.Web);
}

/// <summary>The answer to a request that may have changed the job: its pieces of the page, of which only those are sent that the browser does not show already, and an event that says what is so now.</summary>
public sealed class BenchAnswer(BenchView bench, string? shown)
{
    private readonly HashSet<string> _shown = [.. (shown ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries)];

    /// <summary>The bench as it stands.</summary>
    public BenchView Bench => bench;

    /// <summary>What the command did, or why it was refused; null: nothing is said.</summary>
    public string? Says { get; init; }

    /// <summary>It was refused.</summary>
    public bool Trouble { get; init; }

    /// <summary>The parts that are to be selected: the first and the one after the last of those that came in; null: no others than before.</summary>
    public (int From, int To)? Selects { get; init; }

    /// <summary>The card stays as the browser has it, with all that was typed in it.</summary>
    public bool KeepsCard { get; init; }

    /// <summary>Rendered as pieces that find their own place on the page; else as the card alone.</summary>
    public bool Sent { get; init; } = true;

    /// <summary>The card's model; null: that of the open task.</summary>
    public object? Card { get; init; }

    /// <summary>Whether a piece of the page has to be sent.</summary>
    public bool Sends(BenchPiece piece) => !_shown.Contains($"{piece.Id}:{piece.TagOf(bench)}");

    /// <summary>The event for the script, as the header <c>HX-Trigger-After-Swap</c> carries it.</summary>
    public string Trigger => JsonSerializer.Serialize(
        new Dictionary<string, object> { ["thimble:job"] = new { state = ScreenState.Of(bench), selects = Selects is var (from, to) ? new[] { from, to } : null, refused = Trouble } }, JsonSerializerOptions.Web);
}
