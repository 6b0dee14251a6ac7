using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Dapper;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using Microsoft.Data.Sqlite;

namespace EvenThimble.Storage;

/// <summary>A design as the shelf shows it. Width and height in mm.</summary>
public sealed record DesignCard(long Id, string Title, string FileName, string Kind, string Tags, string OriginalHash, DateTimeOffset AddedAt, double Width, double Height, int Stitches, int ThreadChanges, ImmutableArray<string> Notes, ImmutableArray<Rgb> Colours)
{
    /// <summary>What is stored of it cannot be read any more.</summary>
    public bool IsDamaged { get; init; }

    /// <summary>The kind of file it came as.</summary>
    public StitchFileKind FileKind => StitchFormats.Find(Kind) ?? StitchFileKind.Evth2;
}

/// <summary>What is needed to choose among designs. Width and height in mm.</summary>
public sealed record DesignLine(long Id, string Title, string FileName, string Tags, double Width, double Height, long Stitches, long ThreadChanges);

/// <summary>What came of an import.</summary>
/// <param name="Id">The design.</param>
/// <param name="Title">Its title.</param>
/// <param name="WasThere">The same file was on the shelf already; nothing was added.</param>
public sealed record ImportResult(long Id, string Title, bool WasThere);

/// <summary>A design that comes in.</summary>
/// <param name="File">What it holds.</param>
/// <param name="Kind">What kind of file it came as.</param>
/// <param name="FileName">The name it came under.</param>
/// <param name="Original">Its bytes.</param>
/// <param name="Picture">A PNG of it.</param>
/// <param name="Tags">Words to find it by.</param>
public sealed record NewDesign(StitchFile File, StitchFileKind Kind, string FileName, byte[] Original, byte[] Picture, string Tags = "");

/// <summary>The designs on the shelf.</summary>
public sealed class DesignStore(Database database, TimeProvider clock)
{
    private sealed record Row(long Id, string Title, string FileName, string Kind, string Tags, string OriginalHash, string AddedAt, double Width, double Height, long Stitches, long ThreadChanges, string Notes, string Parts);

    private sealed record StoredPart(int First, int Count, string Maker, string Number, string Name, string Colour, string Role);

    private const string Columns = "id AS Id, title AS Title, file_name AS FileName, kind AS Kind, tags AS Tags, original_hash AS OriginalHash, added_at AS AddedAt, width AS Width, height AS Height, stitches AS Stitches, thread_changes AS ThreadChanges, notes AS Notes, parts AS Parts";

    /// <summary>Puts a design on the shelf: its stitches, its file as it came and its picture, together or not at all. The same file twice is one design.</summary>
    public ImportResult Import(NewDesign design) => database.Write((c, t) => Put(c, t, design, Stamp()));

    /// <summary>The same within a change.</summary>
    internal static ImportResult Put(SqliteConnection c, SqliteTransaction t, NewDesign design, string now)
    {
        var originalHash = BlobHash.Of(design.Original).Hex;
        if (c.QuerySingleOrDefault<(long Id, string Title)?>("SELECT id, title FROM design WHERE original_hash = @originalHash", new { originalHash }, t) is { } known)
        {
            c.Execute("UPDATE design SET deleted_at = NULL WHERE id = @Id", new { known.Id }, t);
            return new(known.Id, known.Title, true);
        }

        var file = design.File;
        BlobStore.Put(c, t, file.Stitches);
        var bounds = file.Bounds;
        var id = c.ExecuteScalar<long>(
            """
            INSERT INTO design (title, file_name, kind, tags, added_at, width, height, stitches, thread_changes, notes, blob_hash, parts, original, original_hash, picture)
            VALUES (@Title, @fileName, @kind, @Tags, @now, @Width, @Height, @StitchCount, @ThreadChanges, @notes, @blob, @parts, @Original, @originalHash, @Picture)
            RETURNING id
            """,
            new
            {
                file.Title,
                fileName = Titles.Clean(design.FileName),
                kind = design.Kind.Id,
                design.Tags,
                now,
                bounds.Width,
                bounds.Height,
                file.StitchCount,
                file.ThreadChanges,
                notes = string.Join('\n', file.Notes),
                blob = file.Stitches.Hash.Hex,
                parts = PartsJson(file),
                design.Original,
                originalHash,
                design.Picture,
            },
            t);
        return new(id, file.Title, false);
    }

    /// <summary>All designs that are not deleted, the newest first.</summary>
    public IReadOnlyList<DesignCard> All() => database.Read(c =>
        c.Query<Row>($"SELECT {Columns} FROM design WHERE deleted_at IS NULL ORDER BY id DESC").Select(ToCard).ToList());

    /// <summary>What is needed to choose among all designs that are not deleted, the newest first.</summary>
    public IReadOnlyList<DesignLine> Lines() => database.Read(c =>
        c.Query<DesignLine>("SELECT id AS Id, title AS Title, file_name AS FileName, tags AS Tags, width AS Width, height AS Height, stitches AS Stitches, thread_changes AS ThreadChanges FROM design WHERE deleted_at IS NULL ORDER BY id DESC").ToList());

    /// <summary>One design, or null.</summary>
    public DesignCard? Find(long id) => database.Read(c =>
        c.QuerySingleOrDefault<Row>($"SELECT {Columns} FROM design WHERE id = @id AND deleted_at IS NULL", new { id }) is { } row ? ToCard(row) : null);

    /// <summary>The title of a design, deleted or not, or null.</summary>
    public string? TitleOf(long id) => database.Read(c => c.QuerySingleOrDefault<string>("SELECT title FROM design WHERE id = @id", new { id }));

    /// <summary>The contents of a design, deleted or not, or null.</summary>
    public StitchFile? Load(long id, BlobStore blobs)
    {
        var row = database.Read(c => c.QuerySingleOrDefault<(string Title, string Blob, string Parts)?>("SELECT title, blob_hash, parts FROM design WHERE id = @id", new { id }));
        if (row is not { } r) return null;
        var parts = (PartsOf(r.Parts) ?? throw new UnreadableException($"What is stored of “{r.Title}” is damaged. Its file as it came can be downloaded from the shelf; bring that in anew.")).Select(p => new StitchFilePart(
            p.First, p.Count, new SewingThread(p.Maker, p.Number, p.Name, Rgb.TryParse(p.Colour, out var colour) ? colour : default), StorageKeys.Role(p.Role)));
        return new(r.Title, blobs.Get(new(r.Blob)), [.. parts]);
    }

    /// <summary>The file as it came, and its name; null when there is no such design.</summary>
    public (string FileName, byte[] Bytes)? Original(long id) => database.Read(c =>
        c.QuerySingleOrDefault<(string, byte[])?>("SELECT file_name, original FROM design WHERE id = @id", new { id }));

    /// <summary>The file as it came by the hash of its bytes, and its name; null when there is no such design.</summary>
    public (string FileName, byte[] Bytes)? Original(string hash) => database.Read(c =>
        c.QuerySingleOrDefault<(string, byte[])?>("SELECT file_name, original FROM design WHERE original_hash = @hash", new { hash }));

    /// <summary>The picture (PNG), or null.</summary>
    public byte[]? Picture(long id) => database.Read(c => c.QuerySingleOrDefault<byte[]>("SELECT picture FROM design WHERE id = @id", new { id }));

    /// <summary>Takes a design off the shelf; jobs made of it go on working, and <see cref="Restore"/> brings it back. False when it is not there.</summary>
    public bool Delete(long id) => database.Write((c, t) => c.Execute("UPDATE design SET deleted_at = @now WHERE id = @id AND deleted_at IS NULL", new { id, now = Stamp() }, t) == 1);

    /// <summary>Puts a deleted design back.</summary>
    public bool Restore(long id) => database.Write((c, t) => c.Execute("UPDATE design SET deleted_at = NULL WHERE id = @id", new { id }, t) == 1);

    /// <summary>Sets the words that a design is found by.</summary>
    public bool Tag(long id, string tags) => database.Write((c, t) => c.Execute("UPDATE design SET tags = @tags WHERE id = @id", new { id, tags = Titles.Clean(tags) }, t) == 1);

    private string Stamp() => clock.GetUtcNow().ToString("O", CultureInfo.InvariantCulture);

    private static string PartsJson(StitchFile file) => JsonSerializer.Serialize(file.Parts.Select(p =>
        new StoredPart(p.First, p.Count, p.Thread.Maker, p.Thread.Number, p.Thread.Name, p.Thread.Colour.Hex, StorageKeys.Of(p.Role))));

    private static List<StoredPart>? PartsOf(string json)
    {
        try
        {
            var parts = JsonSerializer.Deserialize<List<StoredPart>>(json);
            return parts is { Count: > 0 } && parts.TrueForAll(p => p is { First: >= 0, Count: > 0, Maker: not null, Number: not null, Name: not null, Role: not null } && StorageKeys.IsRole(p.Role)) ? parts : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>The card; of a row that cannot be read as it was stored, with what can.</summary>
    private static DesignCard ToCard(Row r)
    {
        var parts = PartsOf(r.Parts);
        var added = DateTimeOffset.TryParse(r.AddedAt, CultureInfo.InvariantCulture, out var at) ? at : default;
        return new(
            r.Id, Titles.Clean(r.Title), r.FileName, r.Kind, r.Tags, r.OriginalHash, added, r.Width, r.Height, (int)r.Stitches, (int)r.ThreadChanges,
            [.. r.Notes.Split('\n', StringSplitOptions.RemoveEmptyEntries)],
            [.. (parts ?? []).Select(p => Rgb.TryParse(p.Colour, out var colour) ? colour : default).Distinct()])
        {
            IsDamaged = parts is null,
        };
    }
}
