using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Jobs;

/// <summary>A job as JSON, the form in which revisions are stored.</summary>
public static class JobDocument
{
    private const int Version = 1;

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
    };

    private sealed record Stored(int Version, string Title, string? ShortTitle, string Machine, string Hoop, string Cloth, string ClothColour, List<StoredPiece> Pieces, List<StoredPart> Parts);

    private sealed record StoredPiece(int Id, string Name, long Design);

    private sealed record StoredPart(int Id, int Piece, string Name, string Maker, string Number, string ThreadName, string Colour, string Role, double X, double Y, double Turn, bool Hidden, bool Locked, List<StoredSlice> Slices);

    private sealed record StoredSlice(string Blob, int First, int Count);

    /// <summary>The job as JSON.</summary>
    public static string ToJson(Job job) => JsonSerializer.Serialize(
        new Stored(
            Version, job.Title, job.ShortTitle, job.Hoop.MachineId, job.Hoop.HoopId, job.Cloth.KindId, job.Cloth.Colour.Hex,
            [.. job.Pieces.Select(p => new StoredPiece(p.Id.Value, p.Name, p.DesignId))],
            [.. job.Order.Select(ToStored)]),
        Options);

    /// <summary>The job that JSON holds.</summary>
    /// <exception cref="InvalidDataException">It is not a job, or one of a later version.</exception>
    public static Job FromJson(string json)
    {
        try
        {
            var stored = JsonSerializer.Deserialize<Stored>(json, Options) ?? throw new InvalidDataException("The stored job is empty.");
            if (stored.Version != Version) throw new InvalidDataException($"The job was stored by a later version ({stored.Version}) of Even Thimble.");
            return new Job(
                stored.Title,
                [.. stored.Pieces.Select(p => new Piece(new(p.Id), p.Name, p.Design))],
                new([.. stored.Parts.Select(FromStored)]),
                new(stored.Machine, stored.Hoop),
                new(stored.Cloth, Colour(stored.ClothColour)))
            { ShortTitle = stored.ShortTitle };
        }
        catch (Exception e) when (e is JsonException or NullReferenceException or ArgumentNullException)
        {
            throw new InvalidDataException("The stored job cannot be read.", e);
        }
    }

    private static StoredPart ToStored(Part p) => new(
        p.Id.Value, p.Piece.Value, p.Name, p.Thread.Maker, p.Thread.Number, p.Thread.Name, p.Thread.Colour.Hex, p.Role.InWords(),
        p.Placement.X, p.Placement.Y, p.Placement.TurnDegrees, p.Hidden, p.Locked,
        [.. p.Slices.Select(s => new StoredSlice(s.Blob.Hex, s.First, s.Count))]);

    private static Part FromStored(StoredPart p)
    {
        if (!PartRoles.TryParse(p.Role, out var role)) throw new InvalidDataException($"The stored job has a role that is not known: {p.Role}.");
        return new(
            new(p.Id), new(p.Piece), p.Name, [.. p.Slices.Select(s => new StitchSlice(new BlobHash(s.Blob), s.First, s.Count))],
            new SewingThread(p.Maker ?? string.Empty, p.Number ?? string.Empty, p.ThreadName ?? string.Empty, Colour(p.Colour)), role, new(p.X, p.Y, p.Turn))
        {
            Hidden = p.Hidden,
            Locked = p.Locked,
        };
    }

    private static Rgb Colour(string hex) => Rgb.TryParse(hex, out var colour) ? colour : throw new InvalidDataException($"The stored job has a colour that is none: {hex}.");
}
