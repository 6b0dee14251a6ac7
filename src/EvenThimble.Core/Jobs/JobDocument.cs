using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Fabrics;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>A job as JSON, the form in which revisions are stored and archives carry it.</summary>
public static class JobDocument
{
    /// <summary>Version 1 knew only bought designs, and of a cloth only its name.</summary>
    private const int Version = 2;

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
        MaxDepth = 32,
    };

    private sealed record Stored(
        int Version, string Title, string? ShortTitle, string Machine, string Hoop, string Cloth, string ClothColour, StoredCloth? Profile, List<StoredPiece> Pieces, List<StoredPart> Parts);

    private sealed record StoredPiece(int Id, string Name, long? Design);

    private sealed record StoredPart(
        int Id, int Piece, string Name, string Maker, string Number, string ThreadName, string Colour, string Role, double X, double Y, double Turn, bool Mirrored, bool Hidden, bool Locked,
        List<StoredSlice>? Slices, StoredDrawing? Drawn);

    private sealed record StoredSlice(string Blob, int First, int Count);

    /// <summary>The job as JSON.</summary>
    public static string ToJson(Job job) => JsonSerializer.Serialize(
        new Stored(
            Version, job.Title, job.ShortTitle, job.Hoop.MachineId, job.Hoop.HoopId, job.Cloth.Profile.Id, job.Cloth.Colour.Hex,
            ClothProfiles.Find(job.Cloth.Profile.Id) == job.Cloth.Profile ? null : StoredCloth.Of(job.Cloth.Profile),
            [.. job.Pieces.Select(p => new StoredPiece(p.Id.Value, p.Name, p.DesignId))],
            [.. job.Order.Select(ToStored)]),
        Options);

    /// <summary>A cloth profile as JSON.</summary>
    public static string ToJson(ClothProfile profile) => JsonSerializer.Serialize(StoredCloth.Of(profile), Options);

    /// <summary>The job that JSON holds.</summary>
    /// <exception cref="InvalidDataException">It is not a job, or one of a later version.</exception>
    public static Job FromJson(string json) => Read<Stored, Job>(json, "job", stored =>
    {
        if (stored.Version is < 1 or > Version) throw new InvalidDataException($"The job was stored by a later version ({stored.Version}) of Even Thimble.");
        var profile = stored.Profile?.ToProfile() ?? ClothProfiles.Find(stored.Cloth) ?? ClothProfiles.Cotton;
        var job = new Job(
            stored.Title,
            [.. stored.Pieces.Select(p => new Piece(new(p.Id), p.Name, p.Design))],
            new([.. stored.Parts.Select(FromStored)]),
            new(stored.Machine, stored.Hoop),
            new(profile, Rgb.OfHex(stored.ClothColour)))
        { ShortTitle = stored.ShortTitle };
        if (job.Title is null || job.Hoop.MachineId is null || job.Hoop.HoopId is null || job.Pieces.Any(p => p.Name is null)) throw new InvalidDataException("The stored job lacks its title, hoop or names.");
        return job;
    });

    /// <summary>The cloth profile that JSON holds.</summary>
    /// <exception cref="InvalidDataException">It is none.</exception>
    public static ClothProfile ProfileFromJson(string json) => Read<StoredCloth, ClothProfile>(json, "cloth profile", stored => stored.ToProfile());

    private static TResult Read<TStored, TResult>(string json, string what, Func<TStored, TResult> take)
    {
        try
        {
            return take(JsonSerializer.Deserialize<TStored>(json, Options) ?? throw new InvalidDataException($"The stored {what} is empty."));
        }
        catch (Exception e) when (e is JsonException or NullReferenceException or ArgumentException or FormatException)
        {
            throw new InvalidDataException($"The stored {what} cannot be read.", e);
        }
    }

    private static StoredPart ToStored(Part p) => new(
        p.Id.Value, p.Piece.Value, p.Name, p.Thread.Maker, p.Thread.Number, p.Thread.Name, p.Thread.Colour.Hex, p.Role.InWords(),
        p.Placement.X, p.Placement.Y, p.Placement.TurnDegrees, p.Placement.Mirrored, p.Hidden, p.Locked,
        p.Drawn is null ? [.. p.Slices.Select(s => new StoredSlice(s.Blob.Hex, s.First, s.Count))] : null,
        p.Drawn is { } drawn ? StoredDrawing.Of(drawn) : null);

    private static Part FromStored(StoredPart p)
    {
        if (!PartRoles.TryParse(p.Role, out var role)) throw new InvalidDataException($"The stored job has a role that is not known: {p.Role}.");
        ImmutableArray<StitchSlice> slices = [.. (p.Slices ?? []).Select(s => s.Count > 0 && s.First >= 0 ? new StitchSlice(new BlobHash(s.Blob), s.First, s.Count) : throw new InvalidDataException("The stored job has a part without stitches."))];
        if (slices.Length == 0 == (p.Drawn is null)) throw new InvalidDataException("The stored job has a part that is neither stitches nor a shape.");
        return new(
            new(p.Id), new(p.Piece), p.Name ?? string.Empty, slices,
            new SewingThread(p.Maker ?? string.Empty, p.Number ?? string.Empty, p.ThreadName ?? string.Empty, Rgb.OfHex(p.Colour)), role, new(p.X, p.Y, p.Turn, p.Mirrored))
        {
            Hidden = p.Hidden,
            Locked = p.Locked,
            Drawn = p.Drawn?.ToDrawn(),
        };
    }
}
