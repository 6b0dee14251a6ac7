using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>What a job's document says of the job as a whole.</summary>
internal sealed record StoredHead(string Title, string? ShortTitle, bool OnlySeen, string Cloth, string ClothColour, StoredCloth? Profile, int NextPiece, int NextPart, int? Copies = null, StoredSewing? Sewing = null, StoredNames? Names = null, StoredCutting? Cutting = null);

/// <summary>A thread of the palette; elsewhere it stands by its number here.</summary>
internal sealed record StoredThread(string? Maker, string? Number, string? Name, string Colour)
{
    public static StoredThread Of(SewingThread t) => new(t.Maker, t.Number, t.Name, t.Colour.Hex);

    public SewingThread ToThread() => new(Titles.Clean(Maker), Titles.Clean(Number), Titles.Clean(Name), Rgb.OfHex(Colour));
}

/// <summary>A content: of a design the number of its blob and how its parts divide it; of a drawing how many of the shapes are its, which for a lettering are its letters; of a text written with a letter set its letters.</summary>
internal sealed record StoredContent(string Kind, string? Original, int Blob, List<int>? Counts, List<int>? Threads, List<string>? Roles, int Shapes, StoredLettering? Lettering = null, StoredLetterSet? Set = null, StoredMonogram? Monogram = null, StoredBorder? Border = null, StoredSlot? Slot = null)
{
    public const string Design = "design";
    public const string Drawing = "drawing";
    public const string Letters = "lettering";
    public const string Written = "letter_set";
    public const string Initials = "monogram";
    public const string Around = "border";
    public const string Names = "name_slot";
}

/// <summary>A shape of a drawing, by its hash.</summary>
internal sealed record StoredShape(string Key, string Name, string Shape, int Thread, StoredPlacement? At, StoredStitching Stitching);

/// <summary>A piece, with the number of its content.</summary>
internal sealed record StoredPiece(int Id, string Name, int Content, StoredPlacement? At);

/// <summary>
/// A part that is otherwise than its content makes it, or a run of parts that follow each other in number, key and order and are treated alike. What is not said is as the content has it.
/// </summary>
internal sealed record StoredPart(
    int Id, int Of, string Key, int Run, string? Name, int? Thread, string? Role, StoredPlacement? At, bool Hidden, bool Locked, bool Whole, List<StoredSlice>? Slices, string? StopAfter = null)
{
    public bool IsLike(StoredPart other) =>
        Of == other.Of && Name == other.Name && Thread == other.Thread && Role == other.Role && At == other.At && Hidden == other.Hidden && Locked == other.Locked && Whole == other.Whole && StopAfter == other.StopAfter && Slices is null && other.Slices is null;
}

/// <summary>A size.</summary>
internal sealed record StoredSize(double Across, double Down, double Lean)
{
    private const double Most = 10_000;

    public static StoredSize? Of(Sizing size) => size.IsOriginal ? null : new(size.Across, size.Down, size.Lean);

    public static Sizing Sizing(StoredSize? stored) => stored is null ? Geometry.Sizing.Original
        : stored is { Across: > 0 and < Most, Down: > 0 and < Most } && Math.Abs(stored.Lean) < Most ? new(stored.Across, stored.Down, stored.Lean)
        : throw new InvalidDataException("The stored job has a part of an impossible size.");
}

/// <summary>A placement.</summary>
internal sealed record StoredPlacement(double X, double Y, double Turn, bool Mirrored, StoredSize? Size)
{
    public static StoredPlacement Of(Placement p) => new(p.X, p.Y, p.TurnDegrees, p.Mirrored, StoredSize.Of(p.Size));

    public static StoredPlacement? Unless(Placement p, Placement usual) => p == usual ? null : Of(p);

    public Placement ToPlacement() => double.IsFinite(X) && double.IsFinite(Y) && double.IsFinite(Turn)
        ? new(X, Y, Turn, Mirrored) { Size = StoredSize.Sizing(Size) }
        : throw new InvalidDataException("The stored job has a part that lies nowhere.");
}

/// <summary>What the user told that the stitches from one record of a blob to another are.</summary>
internal sealed record StoredTold(int First, int Last, string As)
{
    public static ToldReadings? All(List<StoredTold>? stored)
    {
        if (stored is not { Count: > 0 }) return null;
        try
        {
            return ToldReadings.Of(stored.Select(t => new ToldReading(t.First, t.Last, StorageKeys.ReadAs(t.As))));
        }
        catch (EditRefusedException e)
        {
            throw new InvalidDataException("The stored job tells something of stitches that it does not have.", e);
        }
    }
}

/// <summary>A slice of bought stitches, with the number of its blob.</summary>
internal sealed record StoredSlice(int Blob, int First, int Count, StoredPlacement? Own, bool Stretched, double SpacingTimes, bool NoUnderlay, double ShorterThanMm, bool CutBefore, bool CutAfter, List<StoredTold>? Told)
{
    public static StoredSlice Of(StitchSlice s, Func<BlobHash, int> numberOf) => new(
        numberOf(s.Blob), s.First, s.Count, s.Own is { } own ? StoredPlacement.Of(own) : null, s.Rework.Mode == ResizeMode.Stretch, s.Rework.SpacingTimes ?? 0, s.Rework.WithoutUnderlay, s.Rework.ShorterThanMm, s.CutBefore, s.CutAfter,
        s.Rework.Told is { All.Count: > 0 } told ? [.. told.All.Select(t => new StoredTold(t.First, t.Last, StorageKeys.Of(t.As)))] : null);

    public StitchSlice ToSlice(Func<int, BlobHash> blob)
    {
        if (Count <= 0 || First < 0 || !(SpacingTimes is >= 0 and < 100) || !(ShorterThanMm is >= 0 and < 100)) throw new InvalidDataException("The stored job has a part without stitches.");
        return new(blob(Blob), First, Count)
        {
            Own = Own?.ToPlacement(),
            Rework = new() { Mode = Stretched ? ResizeMode.Stretch : ResizeMode.Respace, SpacingTimes = SpacingTimes == 0 ? null : SpacingTimes, WithoutUnderlay = NoUnderlay, ShorterThanMm = ShorterThanMm, Told = StoredTold.All(Told) },
            CutBefore = CutBefore,
            CutAfter = CutAfter,
        };
    }
}

/// <summary>A job's document, version 4.</summary>
internal sealed record StoredDocument(
    StoredHead Job, List<StoredHooping> Hoopings, List<StoredThread> Threads, List<string> Blobs, List<StoredContent> Contents, List<StoredShape> Shapes, List<StoredPiece> Pieces, List<StoredPart> Parts)
{
    /// <summary>The document of a job. Contents that several pieces share stand in it once.</summary>
    public static StoredDocument Of(Job job)
    {
        var contents = job.Pieces.Select(p => p.Content).Distinct().ToList();
        var threads = new Numbers<SewingThread>(job.Palette.Threads);
        var blobs = new Numbers<BlobHash>([]);
        var shapes = new List<StoredShape>();
        var storedContents = contents.ConvertAll(content => content switch
        {
            DesignContent d => new StoredContent(
                StoredContent.Design, d.Original, blobs.Of(d.Stitches), [.. d.Divided.Select(p => p.Count)], [.. d.Divided.Select(p => threads.Of(p.Thread))],
                d.Divided.All(p => p.Role == PartRole.Decoration) ? null : [.. d.Divided.Select(p => StorageKeys.Of(p.Role))], 0),
            LetteringContent l => Drawing(l) with { Kind = StoredContent.Letters, Lettering = StoredLettering.Of(l) },
            MonogramContent m => Drawing(m) with { Kind = StoredContent.Initials, Monogram = StoredMonogram.Of(m) },
            NameSlotContent n => Drawing(n) with { Kind = StoredContent.Names, Lettering = StoredLettering.Of(n.Wish, n.Font, n.CapitalMm, null), Slot = StoredSlot.Of(n) },
            BorderContent b => Drawing(b) with { Kind = StoredContent.Around, Border = StoredBorder.Of(b) },
            DrawingContent d => Drawing(d),
            LetterSetContent w => new StoredContent(StoredContent.Written, null, 0, null, null, null, 0, StoredLettering.Of(w), new(
                [.. w.Letters.Select(l => new StoredWritten(l.Key.Text, l.Text, blobs.Of(l.Stitches), [.. l.Divided.Select(d => d.Count)], [.. l.Divided.Select(d => threads.Of(d.Thread))], StoredPlacement.Unless(l.At, Placement.AsItCame)))],
                w.How.OneThread is { } one ? threads.Of(one) : null, w.How.Joined, w.Missing.IsEmpty ? null : [.. w.Missing])),
            _ => throw new NotSupportedException($"A {content.GetType().Name} has no place in the document."),
        });
        var pieces = job.Pieces.ToDictionary(p => p.Id);
        var numberOf = contents.Select((c, i) => (c, i)).ToDictionary(c => c.c, c => c.i);
        var storedParts = Runs(job.Order.Select(p => new StoredPart(
            p.Id.Value, p.Piece.Value, p.Made.Key.Text, 0, p.OwnName, p.OwnThread is { } thread ? threads.Of(thread) : null, p.OwnRole is { } role ? StorageKeys.Of(role) : null,
            StoredPlacement.Unless(p.Placement, pieces[p.Piece].PlaceOf(p.Made)), p.Hidden, p.Locked, p.KeptWhole,
            p.Source is PartSource.Bought bought ? [.. bought.Slices.Select(s => StoredSlice.Of(s, blobs.Of))] : null, p.StopAfter)));
        var profile = job.Cloth.Profile;
        return new(
            new(job.Title, job.ShortTitle, job.SewsOnlySeen, profile.Id, job.Cloth.Colour.Hex, ClothProfiles.Find(profile.Id) == profile ? null : StoredCloth.Of(profile), job.NextPiece, job.NextPart, job.Copies == 1 ? null : job.Copies, StoredSewing.Of(job), StoredNames.Of(job.Names), StoredCutting.Of(job.Cutting)),
            [.. job.Hoopings.Select(StoredHooping.Of)],
            [.. threads.All.Select(StoredThread.Of)],
            [.. blobs.All.Select(b => b.Hex)],
            storedContents,
            shapes,
            [.. job.Pieces.Select(p => new StoredPiece(p.Id.Value, p.Name, numberOf[p.Content], StoredPlacement.Unless(p.Placement, Placement.AsItCame)))],
            storedParts);

        StoredContent Drawing(DrawingContent drawing)
        {
            shapes.AddRange(drawing.Shapes.Select(s => new StoredShape(s.Key.Text, s.Name, s.Shape.Hash.Hex, threads.Of(s.Thread), StoredPlacement.Unless(s.At, Placement.AsItCame), StoredStitching.Of(s.Settings))));
            return new(StoredContent.Drawing, null, 0, null, null, null, drawing.Shapes.Length);
        }
    }

    /// <summary>The job of a document.</summary>
    /// <exception cref="InvalidDataException">Something in it does not fit together.</exception>
    public Job ToJob(IShapeSource shapes)
    {
        var threads = Threads.ConvertAll(t => t.ToThread());
        var blobs = Blobs.ConvertAll(b => new BlobHash(b));
        var contents = new List<PieceContent>();
        var at = 0;
        foreach (var content in Contents)
        {
            contents.Add(content.Kind switch
            {
                StoredContent.Design => Design(content, blobs, threads),
                StoredContent.Drawing => new DrawingContent(ShapesOf(at, content.Shapes)),
                StoredContent.Letters => (content.Lettering ?? throw new InvalidDataException("The stored job has a lettering without its text.")).ToContent(ShapesOf(at, content.Shapes)),
                StoredContent.Initials => (content.Monogram ?? throw new InvalidDataException("The stored job has a monogram without its letters.")).ToContent(ShapesOf(at, content.Shapes)),
                StoredContent.Around => (content.Border ?? throw new InvalidDataException("The stored job has a border that goes around nothing.")).ToContent(ShapesOf(at, content.Shapes)),
                StoredContent.Names => (content.Slot ?? throw new InvalidDataException("The stored job has a name slot without its rules.")).ToContent(content.Lettering ?? throw new InvalidDataException("The stored job has a name slot without a name."), ShapesOf(at, content.Shapes)),
                StoredContent.Written => Written(content, blobs, threads),
                _ => throw new InvalidDataException($"The stored job has a piece of a kind that is not known: {content.Kind}."),
            });
            at += content.Shapes;
        }

        ImmutableArray<DrawingShape> ShapesOf(int first, int count) =>
            [.. Shapes.Skip(first).Take(count).Select(s => new DrawingShape(new(s.Key), Titles.Clean(s.Name), shapes.Get(new(s.Shape)), s.Stitching.ToSettings(), threads[s.Thread], s.At?.ToPlacement() ?? Placement.AsItCame))];

        ImmutableArray<Piece> pieces = [.. Pieces.Select(p => new Piece(new(p.Id), p.Name, contents[p.Content], p.At?.ToPlacement() ?? Placement.AsItCame))];
        var byId = pieces.ToDictionary(p => p.Id);
        var made = pieces.Select(p => p.Content).Distinct().ToDictionary(c => c, c => c.Parts.ToDictionary(m => m.Key));
        // A run is of parts as they were made; parts that were taken apart each have a line of their own.
        if (Contents.Exists(c => c.Counts is { Count: > EvenThimble.Core.Jobs.Job.MostParts }) || Pieces.Count > EvenThimble.Core.Jobs.Job.MostParts || Shapes.Count > EvenThimble.Core.Jobs.Job.MostParts)
            throw new InvalidDataException($"A job can have {EvenThimble.Core.Jobs.Job.MostParts:N0} parts; this one has more.");
        var most = Math.Min(EvenThimble.Core.Jobs.Job.MostParts, Parts.Count + pieces.Sum(p => p.Content.Parts.Length));
        var parts = Parts.SelectMany(Each).Select((p, i) => i < most ? p : throw new InvalidDataException("The job has more parts than its pieces make, or than a job can have.")).Select(p =>
        {
            var piece = byId[new(p.Of)];
            var its = made[piece.Content][new(p.Key)];
            var part = new Part(new(p.Id), piece.Id, its, p.At?.ToPlacement() ?? piece.PlaceOf(its)) { Hidden = p.Hidden, Locked = p.Locked, KeptWhole = p.Whole, StopAfter = p.StopAfter };
            if (p.Thread is { } thread) part = part with { Thread = threads[thread] };
            if (p.Role is { } role) part = part with { Role = StorageKeys.Role(role) };
            if (p.Name is { } name) part = part with { Name = name };
            return p.Slices is { Count: > 0 } slices ? part.WithSlices([.. slices.Select(s => s.ToSlice(b => blobs[b]))]) : part;
        });
        var cloth = new Cloth(Job.Profile?.ToProfile() ?? ClothProfiles.Find(Job.Cloth) ?? ClothProfiles.Cotton, Rgb.OfHex(Job.ClothColour));
        var job = new Job(Job.Title, pieces, new([.. parts]), [.. Hoopings.Select(h => h.ToHooping())], cloth)
        {
            ShortTitle = Job.ShortTitle,
            SewsOnlySeen = Job.OnlySeen,
            NextPiece = Job.NextPiece,
            NextPart = Job.NextPart,
            Copies = Job.Copies ?? 1,
            Names = Job.Names?.ToNames(),
            Cutting = Job.Cutting?.ToCutting() ?? JobCutting.None,
            Palette = new([.. threads.Distinct()]),
        };
        return Checked(Job.Sewing?.In(job) ?? job);
    }

    /// <summary>The job, when all that must be there is there.</summary>
    internal static Job Checked(Job job)
    {
        if (job.Title is null || job.Hoopings.Any(h => h.Hoop.MachineId is null || h.Hoop.HoopId is null) || job.Pieces.Any(p => p.Name is null)) throw new InvalidDataException("The job lacks its title, hoop or names.");
        job = JobRules.Cleaned(job);
        JobRules.Check(job);
        return job with { Palette = job.Palette.For(job.Order.Select(p => p.Thread)) };
    }

    private static DesignContent Design(StoredContent content, List<BlobHash> blobs, List<SewingThread> threads)
    {
        if (content.Counts is not { } counts || content.Threads is not { } its || its.Count != counts.Count || (content.Roles is { } roles && roles.Count != counts.Count) || counts.Exists(c => c < 1))
            throw new InvalidDataException("The stored job has a design whose parts do not fit together.");
        return new(content.Original, blobs[content.Blob], [.. counts.Select((count, i) => new DesignPart(count, threads[its[i]], content.Roles is { } r ? StorageKeys.Role(r[i]) : PartRole.Decoration))]);
    }

    private static LetterSetContent Written(StoredContent content, List<BlobHash> blobs, List<SewingThread> threads)
    {
        if (content is not { Lettering: { } wanted, Set: { } set } || set.Letters.Exists(l => l.Counts.Count != l.Threads.Count)) throw new InvalidDataException("The stored job has a text of a letter set that does not fit together.");
        return new(wanted.ToWish(), wanted.Font, [.. set.Letters.Select(l => new WrittenLetter(
            new(l.Key), Titles.Clean(l.Text), blobs[l.Blob], [.. l.Counts.Select((count, i) => new DesignPart(count, threads[l.Threads[i]], PartRole.Decoration))], l.At?.ToPlacement() ?? Placement.AsItCame))])
        {
            CapitalMm = wanted.LaidMm,
            How = new(set.OneThread is { } one ? threads[one] : null, set.Joined),
            Missing = [.. set.Missing ?? []],
        };
    }

    private static List<StoredPart> Runs(IEnumerable<StoredPart> parts)
    {
        var runs = new List<StoredPart>();
        foreach (var part in parts)
        {
            if (runs.Count > 0 && runs[^1] is var last && part.IsLike(last) && Math.Max(last.Run, 1) is var length && part.Id == last.Id + length
                && Number(last.Key) is { } first && Number(part.Key) == first + length)
                runs[^1] = last with { Run = length + 1 };
            else runs.Add(part);
        }

        return runs;
    }

    private static IEnumerable<StoredPart> Each(StoredPart run)
    {
        if (run.Run <= 1) return [run];
        var first = Number(run.Key) ?? throw new InvalidDataException("The stored job has a run of parts without numbers.");
        return Enumerable.Range(0, run.Run).Select(i => run with { Id = run.Id + i, Key = PartKey.Numbered(first + i).Text, Run = 0 });
    }

    private static int? Number(string key) => int.TryParse(key, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n < int.MaxValue / 2 && PartKey.Numbered(n).Text == key ? n : null;

    /// <summary>Numbers things as they are met.</summary>
    private sealed class Numbers<T>(IEnumerable<T> first)
        where T : notnull
    {
        private readonly Dictionary<T, int> _numbers = first.Select((t, i) => (t, i)).ToDictionary(t => t.t, t => t.i);

        public IEnumerable<T> All => _numbers.OrderBy(n => n.Value).Select(n => n.Key);

        public int Of(T thing)
        {
            if (!_numbers.TryGetValue(thing, out var number)) _numbers[thing] = number = _numbers.Count;
            return number;
        }
    }
}
