using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>A hooping, by the short names of machine and hoop; where its field lies, at which position, and how it came to lie.</summary>
internal sealed record StoredHooping(string Machine, string Hoop, double X = 0, double Y = 0, int? Position = null, double OffX = 0, double OffY = 0, double OffTurn = 0)
{
    public static StoredHooping Of(Hooping h) =>
        new(h.Hoop.MachineId, h.Hoop.HoopId, h.Centre.X, h.Centre.Y, h.Position, h.Measured.Dx, h.Measured.Dy, h.Measured.TurnDegrees);

    public Hooping ToHooping() => new(new(Machine, Hoop)) { Centre = new(X, Y), Position = Position, Measured = new(OffX, OffY, OffTurn) };
}

/// <summary>A seam drawn by hand; its places one after the other, x and y in turn.</summary>
internal sealed record StoredSeam(int First, int Second, List<double> Line);

/// <summary>A part given to a hooping by hand.</summary>
internal sealed record StoredGiven(int Part, int Hooping);

/// <summary>How a job is divided, aligned and held, and the notes for its sheet. What is not said is usual.</summary>
internal sealed record StoredSewing(
    List<StoredSeam>? Seams = null, List<StoredGiven>? Given = null, List<double>? Crosses = null, string? Basting = null, bool CentreMark = false, string? Start = null, string? End = null, string? Notes = null)
{
    private static readonly StoredSewing Usual = new();

    public static StoredSewing? Of(Job job)
    {
        var holding = job.Holding;
        var stored = new StoredSewing(
            job.Split.Seams.IsEmpty ? null : [.. job.Split.Seams.Select(s => new StoredSeam(s.First, s.Second, Flat(s.Line)))],
            job.Split.Given.IsEmpty ? null : [.. job.Split.Given.Select(g => new StoredGiven(g.Part.Value, g.Hooping))],
            job.Crosses is { } crosses ? Flat(crosses.Spots) : null,
            holding.Basting == Core.Jobs.Basting.None ? null : StorageKeys.Of(holding.Basting),
            holding.CentreMark,
            holding.Start == NeedleRest.AsSewn ? null : StorageKeys.Of(holding.Start),
            holding.End == NeedleRest.AsSewn ? null : StorageKeys.Of(holding.End),
            job.Notes.Length == 0 ? null : job.Notes);
        return stored == Usual ? null : stored;
    }

    public Job In(Job job) => job with
    {
        Split = new([.. (Seams ?? []).Select(s => new Seam(s.First, s.Second, Points(s.Line)))], [.. (Given ?? []).Select(g => new GivenPart(new(g.Part), g.Hooping))]),
        Crosses = Crosses is null ? null : new(Points(Crosses)),
        Holding = new(Basting is null ? Core.Jobs.Basting.None : StorageKeys.Basting(Basting), CentreMark, Rest(Start), Rest(End)),
        Notes = Notes ?? string.Empty,
    };

    private static NeedleRest Rest(string? key) => key is null ? NeedleRest.AsSewn : StorageKeys.Rest(key);

    private static List<double> Flat(ImmutableArray<Point> points) => [.. points.SelectMany(p => new[] { p.X, p.Y })];

    private static ImmutableArray<Point> Points(List<double> flat) => flat.Count % 2 == 0
        ? [.. flat.Chunk(2).Select(p => new Point(p[0], p[1]))]
        : throw new InvalidDataException("The stored job has a place without one of its two numbers.");
}
