using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>A job as JSON, the form in which revisions are stored and archives carry it.</summary>
public static class JobDocument
{
    /// <summary>Version 1 knew only bought designs, and of a cloth only its name; version 2 no sizes of bought stitches and nothing done to them.</summary>
    private const int Version = 3;

    private static readonly JsonSerializerOptions Options = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
        MaxDepth = 32,
    };

    private sealed record Stored(
        int Version, string Title, string? ShortTitle, string Machine, string Hoop, string Cloth, string ClothColour, StoredCloth? Profile, List<StoredPiece> Pieces, List<StoredPart> Parts, bool OnlySeen);

    private sealed record StoredPiece(int Id, string Name, long? Design);

    private sealed record StoredPart(
        int Id, int Piece, string Name, string Maker, string Number, string ThreadName, string Colour, string Role, double X, double Y, double Turn, bool Mirrored, bool Hidden, bool Locked,
        List<StoredSlice>? Slices, StoredDrawing? Drawn, StoredSize? Size, bool KeptWhole);

    private sealed record StoredSize(double Across, double Down, double Lean)
    {
        public static StoredSize? Of(Sizing size) => size.IsOriginal ? null : new(size.Across, size.Down, size.Lean);

        public static Sizing Sizing(StoredSize? stored) => stored is null ? Geometry.Sizing.Original
            : stored is { Across: > 0 and < 10_000, Down: > 0 and < 10_000 } && Math.Abs(stored.Lean) < 10_000 ? new(stored.Across, stored.Down, stored.Lean)
            : throw new InvalidDataException("The stored job has a part of an impossible size.");
    }

    private sealed record StoredPlacement(double X, double Y, double Turn, bool Mirrored, StoredSize? Size)
    {
        public static StoredPlacement Of(Placement p) => new(p.X, p.Y, p.TurnDegrees, p.Mirrored, StoredSize.Of(p.Size));

        public Placement ToPlacement() => new(X, Y, Turn, Mirrored) { Size = StoredSize.Sizing(Size) };
    }

    private sealed record StoredSlice(string Blob, int First, int Count, StoredPlacement? Own, bool Stretched, double Spacing, bool NoUnderlay, double ShorterThan, bool CutBefore, bool CutAfter);

    /// <summary>The job as JSON.</summary>
    public static string ToJson(Job job) => JsonSerializer.Serialize(
        new Stored(
            Version, job.Title, job.ShortTitle, job.Hoop.MachineId, job.Hoop.HoopId, job.Cloth.Profile.Id, job.Cloth.Colour.Hex,
            ClothProfiles.Find(job.Cloth.Profile.Id) == job.Cloth.Profile ? null : StoredCloth.Of(job.Cloth.Profile),
            [.. job.Pieces.Select(p => new StoredPiece(p.Id.Value, p.Name, p.DesignId))],
            [.. job.Order.Select(ToStored)], job.SewsOnlySeen),
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
        { ShortTitle = stored.ShortTitle, SewsOnlySeen = stored.OnlySeen };
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
        p.Drawn is null ? [.. p.Slices.Select(ToStored)] : null,
        p.Drawn is { } drawn ? StoredDrawing.Of(drawn) : null, StoredSize.Of(p.Placement.Size), p.KeptWhole);

    private static StoredSlice ToStored(StitchSlice s) => new(
        s.Blob.Hex, s.First, s.Count, s.Own is { } own ? StoredPlacement.Of(own) : null, s.Rework.Mode == ResizeMode.Stretch, s.Rework.Spacing ?? 0, s.Rework.WithoutUnderlay, s.Rework.ShorterThan, s.CutBefore, s.CutAfter);

    private static StitchSlice FromStored(StoredSlice s)
    {
        if (s.Count <= 0 || s.First < 0 || !(s.Spacing is >= 0 and < 100) || !(s.ShorterThan is >= 0 and < 100)) throw new InvalidDataException("The stored job has a part without stitches.");
        return new(new BlobHash(s.Blob), s.First, s.Count)
        {
            Own = s.Own?.ToPlacement(),
            Rework = new() { Mode = s.Stretched ? ResizeMode.Stretch : ResizeMode.Respace, Spacing = s.Spacing == 0 ? null : s.Spacing, WithoutUnderlay = s.NoUnderlay, ShorterThan = s.ShorterThan },
            CutBefore = s.CutBefore,
            CutAfter = s.CutAfter,
        };
    }

    private static Part FromStored(StoredPart p)
    {
        if (!PartRoles.TryParse(p.Role, out var role)) throw new InvalidDataException($"The stored job has a role that is not known: {p.Role}.");
        ImmutableArray<StitchSlice> slices = [.. (p.Slices ?? []).Select(FromStored)];
        if (slices.Length == 0 == (p.Drawn is null)) throw new InvalidDataException("The stored job has a part that is neither stitches nor a shape.");
        return new(
            new(p.Id), new(p.Piece), p.Name ?? string.Empty, slices,
            new SewingThread(p.Maker ?? string.Empty, p.Number ?? string.Empty, p.ThreadName ?? string.Empty, Rgb.OfHex(p.Colour)), role, new(p.X, p.Y, p.Turn, p.Mirrored) { Size = StoredSize.Sizing(p.Size) })
        {
            KeptWhole = p.KeptWhole,
            Hidden = p.Hidden,
            Locked = p.Locked,
            Drawn = p.Drawn?.ToDrawn(),
        };
    }
}
