using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>Documents of versions 1 to 3, brought up one version after another.</summary>
internal static class EarlierJobs
{
    private static readonly Dictionary<int, Action<JsonObject>> Steps = new()
    {
        [1] = ClothsHaveProfiles,
        [2] = BoughtStitchesHaveSizes,
    };

    /// <summary>The job of a document of an earlier version.</summary>
    /// <param name="json">The document.</param>
    /// <param name="version">Its version, 1 to 3.</param>
    /// <param name="originals">The hash of a design's file by its number on the shelf, or null.</param>
    public static Job Upgraded(string json, int version, Func<long, string?> originals)
    {
        var document = JsonNode.Parse(json)!.AsObject();
        for (; Steps.TryGetValue(version, out var step); version++)
        {
            step(document);
            document["version"] = version + 1;
        }

        return (document.Deserialize<Version3>(JobDocument.Options) ?? throw new InvalidDataException("The stored job is empty.")).ToJob(originals);
    }

    /// <summary>Version 1 knew bought designs only, and of a cloth its name, which version 2 still takes for one of the program's own profiles.</summary>
    private static void ClothsHaveProfiles(JsonObject document)
    {
        document.Remove("profile");
        foreach (var part in document["parts"]!.AsArray()) part!.AsObject().Remove("drawn");
    }

    /// <summary>Version 2 had no sizes of bought stitches and nothing was done to them: they are as they came.</summary>
    private static void BoughtStitchesHaveSizes(JsonObject document)
    {
        document.Remove("only_seen");
        foreach (var part in document["parts"]!.AsArray())
        {
            part!.AsObject().Remove("size");
            part.AsObject().Remove("kept_whole");
        }
    }

    /// <summary>
    /// The document of version 3. Parts owned all that they were: thread, name and role stood in each, slices or shape too, and pieces were names with the number of a design. Version 4 gives
    /// all that to the pieces' contents: a design is divided where parts divided its blob, and every drawn part is a shape of its piece's drawing.
    /// </summary>
    private sealed record Version3(string Title, string? ShortTitle, string Machine, string Hoop, string Cloth, string ClothColour, StoredCloth? Profile, List<Piece3> Pieces, List<Part3> Parts, bool OnlySeen)
    {
        public Job ToJob(Func<long, string?> originals)
        {
            var parts = Parts.ToLookup(p => p.Piece);
            var contents = Pieces.ToDictionary(p => p.Id, p => ContentOf(p, [.. parts[p.Id]], originals));
            var pieces = Pieces.Select(p => new Piece(new(p.Id), p.Name, contents[p.Id].Content, contents[p.Id].At)).ToImmutableArray();
            var byId = pieces.ToDictionary(p => p.Id.Value);
            var order = Parts.Select(p =>
            {
                var piece = byId[p.Piece];
                var made = piece.Content.Parts.First(m => m.Key == contents[p.Piece].Keys[p.Id]);
                var part = new Part(new(p.Id), piece.Id, made, p.ToPlacement()) { Thread = p.ToThread(), Role = p.ToRole(), Hidden = p.Hidden, Locked = p.Locked, KeptWhole = p.KeptWhole };
                if (p.Drawn is null) part = part.WithSlices([.. p.Slices!.Select(s => s.ToSlice())]);
                return part with { Name = p.Name ?? string.Empty };
            });
            var job = new Job(
                Title, pieces, new([.. order]), [new(new HoopChoice(Machine, Hoop))], new(Profile?.ToProfile() ?? ClothProfiles.Find(Cloth) ?? ClothProfiles.Cotton, Rgb.OfHex(ClothColour)))
            {
                ShortTitle = ShortTitle,
                SewsOnlySeen = OnlySeen,
                NextPiece = Pieces.Select(p => p.Id).DefaultIfEmpty(0).Max() + 1,
                NextPart = Parts.Select(p => p.Id).DefaultIfEmpty(0).Max() + 1,
            };
            return StoredDocument.Checked(job);
        }

        private static (PieceContent Content, Placement At, Dictionary<int, PartKey> Keys) ContentOf(Piece3 piece, List<Part3> parts, Func<long, string?> originals)
        {
            if (parts.Exists(p => p.Slices is { Count: > 0 } == p.Drawn is not null)) throw new InvalidDataException("The stored job has a part that is neither stitches nor a shape.");
            if (parts.Count == 0 || parts[0].Drawn is not null) return Drawing(parts);
            var original = piece.Design is { } id ? originals(id) : null;
            return Design(original, parts);
        }

        private static (PieceContent Content, Placement At, Dictionary<int, PartKey> Keys) Drawing(List<Part3> parts)
        {
            var shapes = parts.Select((p, i) => new DrawingShape(
                PartKey.Numbered(i + 1), p.Name ?? string.Empty, (p.Drawn ?? throw new InvalidDataException("The stored job has a drawing with bought stitches in it.")).ToShape(), p.Drawn.ToSettings(), p.ToThread(), p.ToPlacement()));
            return (new DrawingContent([.. shapes]), Placement.AsItCame, parts.Select((p, i) => (p.Id, Key: PartKey.Numbered(i + 1))).ToDictionary(p => p.Id, p => p.Key));
        }

        /// <summary>A design divided wherever a slice of one of its parts begins or ends. Slices of other designs came by joining; they stay with their part.</summary>
        private static (PieceContent Content, Placement At, Dictionary<int, PartKey> Keys) Design(string? original, List<Part3> parts)
        {
            var blob = parts.GroupBy(p => p.Slices![0].Blob).MaxBy(g => g.Count())!.Key;
            var own = parts.SelectMany(p => p.Slices!.Select(s => (Part: p, Slice: s))).Where(s => s.Slice.Blob == blob).ToList();
            if (own.Exists(s => s.Slice.First < 0 || s.Slice.Count < 1 || (long)s.Slice.First + s.Slice.Count > int.MaxValue)) throw new InvalidDataException("The stored job has a part without stitches.");
            var borders = own.SelectMany(s => new[] { s.Slice.First, s.Slice.First + s.Slice.Count }).Append(0).Distinct().Order().ToList();
            var divided = borders.Zip(borders.Skip(1), (first, end) =>
            {
                var its = own.Where(s => s.Slice.First <= first && end <= s.Slice.First + s.Slice.Count).Select(s => s.Part).FirstOrDefault() ?? parts[0];
                return new DesignPart(end - first, its.ToThread(), its.ToRole());
            });
            var keys = parts.ToDictionary(p => p.Id, p => PartKey.Numbered(p.Slices!.Find(s => s.Blob == blob) is { } slice ? borders.IndexOf(slice.First) + 1 : 1));
            var places = parts.Select(p => p.ToPlacement()).Distinct().ToList();
            return (new DesignContent(original, new(blob), [.. divided]), places.Count == 1 ? places[0] : Placement.AsItCame, keys);
        }
    }

    private sealed record Piece3(int Id, string Name, long? Design);

    private sealed record Part3(
        int Id, int Piece, string? Name, string? Maker, string? Number, string? ThreadName, string Colour, string Role, double X, double Y, double Turn, bool Mirrored, bool Hidden, bool Locked,
        List<Slice3>? Slices, Drawn3? Drawn, StoredSize? Size, bool KeptWhole)
    {
        public SewingThread ToThread() => new(Titles.Clean(Maker), Titles.Clean(Number), Titles.Clean(ThreadName), Rgb.OfHex(Colour));

        public PartRole ToRole() => PartRoles.TryParse(Role, out var role) ? role : throw new InvalidDataException($"The stored job has a role that is not known: {Role}.");

        public Placement ToPlacement() => new StoredPlacement(X, Y, Turn, Mirrored, Size).ToPlacement();
    }

    private sealed record Slice3(string Blob, int First, int Count, StoredPlacement? Own, bool Stretched, double Spacing, bool NoUnderlay, double ShorterThan, bool CutBefore, bool CutAfter)
    {
        public StitchSlice ToSlice() => new StoredSlice(0, First, Count, Own, Stretched, Spacing, NoUnderlay, ShorterThan, CutBefore, CutAfter, null).ToSlice(_ => new(Blob));
    }

    /// <summary>A drawn part of version 3. Nodes are rows of numbers: x, y, and of curves also the kind and both arms.</summary>
    private sealed record Drawn3(List<Path3> Paths, bool AnyWinding, StoredStitching Stitching)
    {
        public DrawnShape ToShape()
        {
            var paths = Paths.Select(p => new ShapePath([.. p.Nodes.Select(Node)], p.Closed)).ToImmutableArray();
            if (paths.Sum(p => p.Nodes.Length) > DrawnShape.MostNodes) throw new InvalidDataException("A stored shape has too many points.");
            return new(paths, AnyWinding ? Inside.AnyWinding : Inside.OddCrossings);
        }

        public StitchSettings ToSettings() =>
            Stitching.ToSettings(StitchWays.TryParse(Stitching.Way, out var way) ? way : throw new InvalidDataException($"A stored shape is stitched in a way that is not known: {Stitching.Way}."));

        private static PathNode Node(double[] row)
        {
            if (row.Length is not (2 or 3 or 7) || Array.Exists(row, v => !double.IsFinite(v) || Math.Abs(v) > 10_000)) throw new InvalidDataException("A stored shape has a point that is none.");
            return row.Length == 7 ? new(new(row[0], row[1]), NodeKind.Curve, new(row[3], row[4]), new(row[5], row[6])) : new(new(row[0], row[1]), row.Length == 3 ? NodeKind.Smooth : NodeKind.Corner);
        }
    }

    private sealed record Path3(bool Closed, List<double[]> Nodes);
}
