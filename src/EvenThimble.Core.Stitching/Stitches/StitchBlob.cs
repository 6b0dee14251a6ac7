using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Runtime.InteropServices;
using System.Text;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Stitches;

/// <summary>
/// An unchangeable run of records as a stitch file holds them: for each the place (mm) and what the machine does there.
/// Trims and stops stand at the place of the record before them. Stored once under its hash; parts are slices of it.
/// </summary>
public sealed class StitchBlob
{
    /// <summary>No stitch lies farther from the centre than this, across or down, mm: far more than any machine reaches.</summary>
    public const double FarthestMm = 10_000;

    private const int LongestMessage = 4_000;
    private const int BytesPerRecord = (2 * sizeof(double)) + 1;
    private readonly double[] _x;
    private readonly double[] _y;
    private readonly StitchKind[] _kinds;
    private BlobHash? _hash;

    /// <summary>Takes over arrays of one length; the caller must not change them afterwards.</summary>
    /// <exception cref="ArgumentException">The arrays differ in length.</exception>
    public StitchBlob(double[] x, double[] y, StitchKind[] kinds, ImmutableSortedDictionary<int, string>? messages = null)
        : this(x, y, kinds, x.Length, messages)
    {
    }

    /// <summary>Takes over the first <paramref name="count"/> entries of arrays of one length, so that a reader need not copy what it overestimated.</summary>
    /// <exception cref="ArgumentException">The arrays differ in length or are shorter.</exception>
    public StitchBlob(double[] x, double[] y, StitchKind[] kinds, int count, ImmutableSortedDictionary<int, string>? messages)
    {
        if (x.Length != y.Length || x.Length != kinds.Length || count < 0 || count > x.Length) throw new ArgumentException("The arrays must have one length, and hold the count.");
        (_x, _y, _kinds, Count) = (x, y, kinds, count);
        Messages = messages ?? ImmutableSortedDictionary<int, string>.Empty;
    }

    /// <summary>A blob without records.</summary>
    public static readonly StitchBlob None = new([], [], []);

    /// <summary>Number of records, of all kinds.</summary>
    public int Count { get; }

    /// <summary>Places across, mm.</summary>
    public ReadOnlySpan<double> X => _x.AsSpan(0, Count);

    /// <summary>Places towards the operator, mm.</summary>
    public ReadOnlySpan<double> Y => _y.AsSpan(0, Count);

    /// <summary>What happens at each record.</summary>
    public ReadOnlySpan<StitchKind> Kinds => _kinds.AsSpan(0, Count);

    /// <summary>Messages of stops, by the number of their record.</summary>
    public ImmutableSortedDictionary<int, string> Messages { get; }

    /// <summary>The place of a record, mm.</summary>
    public Point At(int index) => index < Count ? new(_x[index], _y[index]) : throw new ArgumentOutOfRangeException(nameof(index));

    /// <summary>The hash of the stored bytes; computed at the first asking.</summary>
    public BlobHash Hash => _hash ??= BlobHash.Of(ToBytes());

    /// <summary>How many records of a kind there are.</summary>
    public int CountOf(StitchKind kind) => Kinds.Count(kind);

    /// <summary>The rectangle about every needle point of a range of records.</summary>
    public Box BoundsOf(int first, int count)
    {
        var (minX, minY, maxX, maxY) = Box.Empty;
        var kinds = Kinds;
        for (var i = first; i < first + count; i++)
        {
            if (kinds[i] != StitchKind.Stitch) continue;
            var (x, y) = (_x[i], _y[i]);
            if (x < minX) minX = x;
            if (x > maxX) maxX = x;
            if (y < minY) minY = y;
            if (y > maxY) maxY = y;
        }

        return new(minX, minY, maxX, maxY);
    }

    /// <summary>A range of the records by itself.</summary>
    public StitchBlob Cut(int first, int count) => first == 0 && count == Count
        ? this
        : new(X.Slice(first, count).ToArray(), Y.Slice(first, count).ToArray(), Kinds.Slice(first, count).ToArray(),
            Messages.Where(m => m.Key >= first && m.Key < first + count).ToImmutableSortedDictionary(m => m.Key - first, m => m.Value));

    /// <summary>
    /// The bytes a blob is stored and hashed as: u32 count, all x, all y (little-endian doubles, mm), all kinds (one byte each),
    /// then for each message u32 record, u32 length, UTF-8.
    /// </summary>
    public byte[] ToBytes()
    {
        using var bytes = new MemoryStream(sizeof(uint) + (Count * BytesPerRecord));
        using var writer = new BinaryWriter(bytes, Encoding.UTF8);
        writer.Write((uint)Count);
        writer.Write(MemoryMarshal.AsBytes(X));
        writer.Write(MemoryMarshal.AsBytes(Y));
        writer.Write(MemoryMarshal.AsBytes(Kinds));
        foreach (var (record, message) in Messages)
        {
            var text = Encoding.UTF8.GetBytes(message);
            writer.Write((uint)record);
            writer.Write((uint)text.Length);
            writer.Write(text);
        }

        writer.Flush();
        return bytes.ToArray();
    }

    /// <summary>Reads what <see cref="ToBytes"/> wrote.</summary>
    /// <exception cref="InvalidDataException">The bytes are not a stored blob.</exception>
    public static StitchBlob FromBytes(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < sizeof(uint)) throw new InvalidDataException("Stored stitches are cut short.");
        var count = BinaryPrimitives.ReadUInt32LittleEndian(bytes);
        if (sizeof(uint) + (count * (long)BytesPerRecord) > bytes.Length) throw new InvalidDataException("Stored stitches are cut short.");
        var rest = bytes[sizeof(uint)..];
        if (count > WorkBudget.MostRecords) throw new InvalidDataException($"Stored stitches are more than {WorkBudget.MostRecords:N0}.");
        var n = (int)count;
        var x = MemoryMarshal.Cast<byte, double>(rest[..(n * sizeof(double))]).ToArray();
        rest = rest[(n * sizeof(double))..];
        var y = MemoryMarshal.Cast<byte, double>(rest[..(n * sizeof(double))]).ToArray();
        rest = rest[(n * sizeof(double))..];
        var kinds = MemoryMarshal.Cast<byte, StitchKind>(rest[..n]).ToArray();
        rest = rest[n..];
        for (var i = 0; i < n; i++)
        {
            if (!(Math.Abs(x[i]) <= FarthestMm && Math.Abs(y[i]) <= FarthestMm)) throw new InvalidDataException("Stored stitches lie at a place that is none.");
            if (kinds[i] is not (StitchKind.Stitch or StitchKind.Jump or StitchKind.Trim or StitchKind.Stop)) throw new InvalidDataException("Stored stitches hold something that no machine does.");
        }

        var messages = ImmutableSortedDictionary.CreateBuilder<int, string>();
        while (rest.Length >= 2 * sizeof(uint))
        {
            var record = (int)BinaryPrimitives.ReadUInt32LittleEndian(rest);
            var length = (int)BinaryPrimitives.ReadUInt32LittleEndian(rest[sizeof(uint)..]);
            rest = rest[(2 * sizeof(uint))..];
            if (length < 0 || length > rest.Length) throw new InvalidDataException("Stored stitches are cut short.");
            if (record < 0 || record >= n || kinds[record] != StitchKind.Stop || length > LongestMessage) throw new InvalidDataException("Stored stitches have a message where the machine does not stop.");
            messages[record] = Encoding.UTF8.GetString(rest[..length]);
            rest = rest[length..];
        }

        return rest.IsEmpty ? new(x, y, kinds, messages.ToImmutable()) : throw new InvalidDataException("Stored stitches are followed by something else.");
    }
}
