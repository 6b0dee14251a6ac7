using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.RegularExpressions;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Names;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>A job as JSON, the form in which revisions are stored and archives carry it. Stitches and shapes stand in it by their hashes. Each part has a line of its own, so that a small change is a small difference.</summary>
public static partial class JobDocument
{
    /// <summary>The version that is written. What the earlier ones lacked stands at their upgraders (<see cref="EarlierJobs"/>).</summary>
    public const int Version = 4;

    internal static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        MaxDepth = 32,
    };

    /// <summary>What a document of today says and this program does not know is named, rather than lost.</summary>
    private static readonly JsonSerializerOptions Strict = new(Options) { UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow };

    /// <summary>The job as JSON.</summary>
    public static string ToJson(Job job)
    {
        var stored = StoredDocument.Of(job);
        var json = new StringBuilder().Append("{\"version\":").Append(Version);
        json.Append(",\n\"job\":").Append(JsonSerializer.Serialize(stored.Job, Options));
        Lines(json, "hoopings", stored.Hoopings);
        Lines(json, "threads", stored.Threads);
        Lines(json, "blobs", stored.Blobs);
        Lines(json, "contents", stored.Contents);
        Lines(json, "shapes", stored.Shapes);
        Lines(json, "pieces", stored.Pieces);
        Lines(json, "parts", stored.Parts);
        return json.Append("\n}\n").ToString();
    }

    /// <summary>The shapes that a job's document names.</summary>
    public static IEnumerable<DrawnShape> ShapesOf(Job job) => job.Pieces.Select(p => p.Content).OfType<DrawingContent>().SelectMany(d => d.Shapes).Select(s => s.Shape).DistinctBy(s => s.Hash);

    /// <summary>The stitches that a job's document names, each once.</summary>
    public static IEnumerable<BlobHash> StitchesOf(Job job) =>
        job.Order.SelectMany(p => p.Slices).Select(s => s.Blob).Concat(job.Pieces.Select(p => p.Content).SelectMany(c => c switch { DesignContent d => [d.Stitches], LetterSetContent w => w.Letters.Select(l => l.Stitches), _ => Enumerable.Empty<BlobHash>() })).Distinct();

    /// <summary>A roster as JSON.</summary>
    public static string ToJson(Roster roster) => JsonSerializer.Serialize(StoredRoster.Of(roster), Options);

    /// <summary>The roster that JSON holds.</summary>
    /// <exception cref="InvalidDataException">It is none.</exception>
    public static Roster RosterFromJson(string json) => Reading("roster", () =>
    {
        var roster = (JsonSerializer.Deserialize<StoredRoster>(json, Options) ?? throw new InvalidDataException("The stored roster is empty.")).ToRoster();
        roster.Check();
        return roster;
    });

    /// <summary>A cloth profile as JSON.</summary>
    public static string ToJson(ClothProfile profile) => JsonSerializer.Serialize(StoredCloth.Of(profile), Options);

    /// <summary>The job that JSON of this or an earlier version holds.</summary>
    /// <param name="json">The document.</param>
    /// <param name="shapes">Where the shapes come from that it names.</param>
    /// <param name="originals">For documents up to version 3: the hash of a design's file by its number on the shelf, or null.</param>
    /// <exception cref="InvalidDataException">It is not a job, or one of a later version.</exception>
    public static Job FromJson(string json, IShapeSource shapes, Func<long, string?> originals) => Reading("job", () =>
    {
        var version = JsonSerializer.Deserialize<Numbered>(json, Options)?.Version ?? 0;
        return version switch
        {
            < 1 => throw new InvalidDataException("The stored job does not say its version."),
            > Version => throw new InvalidDataException($"The job was stored by a later version ({version}) of Even Thimble."),
            Version => (JsonSerializer.Deserialize<Numbered4>(json, Strict)?.Document ?? throw new InvalidDataException("The stored job is empty.")).ToJob(shapes),
            _ => EarlierJobs.Upgraded(json, version, originals),
        };
    });

    /// <summary>The cloth profile that JSON holds.</summary>
    /// <exception cref="InvalidDataException">It is none.</exception>
    public static ClothProfile ProfileFromJson(string json) => Reading("cloth profile", () =>
    {
        var profile = (JsonSerializer.Deserialize<StoredCloth>(json, Options) ?? throw new InvalidDataException("The stored cloth profile is empty.")).ToProfile();
        JobRules.Check(profile);
        return profile;
    });

    private sealed record Numbered(int Version);

    /// <summary>The document with its version beside it.</summary>
    private sealed record Numbered4(
        int Version, StoredHead Job, List<StoredHooping> Hoopings, List<StoredThread> Threads, List<string> Blobs, List<StoredContent> Contents, List<StoredShape> Shapes, List<StoredPiece> Pieces, List<StoredPart> Parts)
    {
        public StoredDocument Document => new(Job, Hoopings, Threads, Blobs, Contents, Shapes, Pieces, Parts);
    }

    [GeneratedRegex("property '([^']{1,60})")]
    private static partial Regex Unmapped();

    private static void Lines<T>(StringBuilder json, string name, IReadOnlyList<T> items)
    {
        json.Append(",\n\"").Append(name).Append("\":[");
        for (var i = 0; i < items.Count; i++) json.Append(i == 0 ? "\n" : ",\n").Append(JsonSerializer.Serialize(items[i], Options));
        json.Append(items.Count == 0 ? "]" : "\n]");
    }

    private static T Reading<T>(string what, Func<T> take)
    {
        try
        {
            return take();
        }
        catch (EditRefusedException e)
        {
            throw new InvalidDataException(e.Message, e);
        }
        catch (JsonException e) when (Unmapped().Match(e.Message) is { Success: true } unknown)
        {
            throw new InvalidDataException($"The stored {what} says “{Titles.Clean(unknown.Groups[1].Value)}”, which this version of Even Thimble does not know.", e);
        }
        catch (Exception e) when (e is JsonException or OverflowException or ArithmeticException or NullReferenceException or ArgumentException or FormatException or KeyNotFoundException or InvalidOperationException or IndexOutOfRangeException)
        {
            throw new InvalidDataException($"The stored {what} cannot be read.", e);
        }
    }
}
