using System.Buffers.Binary;
using System.Collections.Immutable;
using System.IO.Hashing;
using System.Text;
using System.Text.Json;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>The <c>.evth</c> stitch file, revision 2: chunks with threads, roles, hoop and picture; steps of 0.01 mm.</summary>
public sealed class Evth2Format : IStitchFormat
{
    /// <summary>The revision.</summary>
    public const byte Revision = 2;

    /// <summary>Longest message at a stop, bytes of UTF-8.</summary>
    public const int LongestMessage = 120;

    private const int FileHeaderLength = 8;
    private const int ChunkHeaderLength = 8;
    private const int CrcLength = 4;
    private const int UnitsPerMm = 100;

    // Ten metres: larger than any machine, and sums of steps stay far from overflow.
    private const int FarthestUnits = 10_000 * UnitsPerMm;

    /// <inheritdoc/>
    public StitchFileKind Kind => StitchFileKind.Evth2;

    /// <inheritdoc/>
    public double ToleranceMm => 0.00501;

    /// <inheritdoc/>
    public bool CarriesThreads => true;

    /// <inheritdoc/>
    public bool Recognises(ReadOnlySpan<byte> bytes) => bytes.StartsWith(Evth.Magic) && bytes.Length > Evth.Magic.Length && bytes[Evth.Magic.Length] == Revision;

    /// <inheritdoc/>
    public IEnumerable<string> Losses(StitchFile file)
    {
        yield break;
    }

    /// <summary>Reads a file.</summary>
    /// <exception cref="StitchFileException">The file is damaged.</exception>
    public StitchFile Read(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < FileHeaderLength) throw new StitchFileException($"The stitch file is cut short in its header: {bytes.Length} of {FileHeaderLength} bytes are there. Copy it again from where it came.");
        if (!bytes.StartsWith(Evth.Magic)) throw new StitchFileException("This is not a stitch file: it does not begin with EVTH.");
        if (bytes[4] != Revision) throw new StitchFileException($"The stitch file says it is revision {bytes[4]}; revisions 1 and 2 can be read.");
        var chunks = new Evth2Chunks(bytes[FileHeaderLength..], FileHeaderLength);
        var info = Evth2Text.ReadInfo(chunks.Need("INFO"));
        var threads = ReadThreads(chunks.Need("THRD"));
        var (blob, parts) = Evth2Stitches.Read(chunks.Need("STCH"), threads);
        var hoop = chunks.Take("HOOP", out var hoopBytes) ? Evth2Text.ReadHoop(hoopBytes) : null;
        var needles = chunks.Take("NDLE", out var needleBytes) ? ReadNeedles(needleBytes, parts.Length) : [];
        var picture = chunks.Take("PICT", out var pictureBytes) ? pictureBytes.ToArray() : [];
        chunks.End();
        var file = new StitchFile(info.Title, blob, parts) { Hoop = hoop, Needles = needles, Picture = picture };
        return info.Stitches is { } said && said != file.StitchCount
            ? file with { Notes = [$"The file says it has {said} stitches, but holds {file.StitchCount}; those were taken."] }
            : file;
    }

    /// <summary>Writes a file.</summary>
    /// <exception cref="StitchFileException">It is larger than the revision can describe.</exception>
    public byte[] Write(StitchFile file)
    {
        var threads = file.Threads;
        if (threads.Length > ushort.MaxValue) throw new StitchFileException("There are more threads than a stitch file can name (65,535).");
        using var bytes = new MemoryStream();
        bytes.Write(Evth.Magic);
        bytes.Write([Revision, 0, 0, 0]);
        WriteChunk(bytes, "INFO", Evth2Text.WriteInfo(file));
        WriteChunk(bytes, "THRD", WriteThreads(threads));
        WriteChunk(bytes, "STCH", Evth2Stitches.Write(file, threads));
        if (file.Hoop is { } hoop) WriteChunk(bytes, "HOOP", Evth2Text.WriteHoop(hoop));
        if (file.Needles.Length > 0) WriteChunk(bytes, "NDLE", WriteNeedles(file));
        if (!file.Picture.IsEmpty) WriteChunk(bytes, "PICT", file.Picture.Span);
        WriteChunk(bytes, "ENDF", []);
        return bytes.ToArray();
    }

    /// <summary>Hundredths of a millimetre, rounded absolutely so that rounding never adds up.</summary>
    internal static int Units(double mm)
    {
        var units = Math.Round(mm * UnitsPerMm, MidpointRounding.AwayFromZero);
        return Math.Abs(units) <= FarthestUnits ? (int)units : throw new StitchFileException("The job reaches farther than 10 m from the centre, which a stitch file cannot describe. Centre it first.");
    }

    /// <summary>Whether a place in units is inside what the file may describe.</summary>
    internal static bool InReach(long units) => Math.Abs(units) <= FarthestUnits;

    /// <summary>Millimetres of units.</summary>
    internal static double Mm(long units) => units / (double)UnitsPerMm;

    private static ImmutableArray<SewingThread> ReadThreads(ReadOnlySpan<byte> payload)
    {
        var reader = new ByteReader(payload, "THRD");
        var count = reader.U16();
        var threads = ImmutableArray.CreateBuilder<SewingThread>();
        for (var i = 0; i < count; i++)
        {
            var colour = new Rgb(reader.U8(), reader.U8(), reader.U8());
            threads.Add(new(reader.ShortText(), reader.ShortText(), reader.ShortText(), colour));
        }

        reader.MustBeAtEnd();
        return threads.ToImmutable();
    }

    private static byte[] WriteThreads(ImmutableArray<SewingThread> threads)
    {
        var bytes = new List<byte> { (byte)threads.Length, (byte)(threads.Length >> 8) };
        foreach (var thread in threads)
        {
            bytes.AddRange([thread.Colour.R, thread.Colour.G, thread.Colour.B]);
            foreach (var text in new[] { thread.Maker, thread.Number, thread.Name })
            {
                var utf8 = Evth.Utf8(text, byte.MaxValue);
                bytes.Add((byte)utf8.Length);
                bytes.AddRange(utf8);
            }
        }

        return [.. bytes];
    }

    private static ImmutableArray<int> ReadNeedles(ReadOnlySpan<byte> payload, int parts)
    {
        var reader = new ByteReader(payload, "NDLE");
        var count = reader.U16();
        var needles = ImmutableArray.CreateBuilder<int>();
        for (var i = 0; i < count; i++) needles.Add(reader.U8());
        reader.MustBeAtEnd();
        return count == parts && needles.All(n => n > 0) ? needles.ToImmutable() : throw new StitchFileException("The stitch file is damaged: its needles (NDLE) do not fit to its parts. Copy it again from where it came.");
    }

    private static byte[] WriteNeedles(StitchFile file)
    {
        var needles = file.Parts.Select((p, n) => (p.Count, Needle: file.Needles[n])).Where(p => p.Count > 0).Select(p => (byte)p.Needle).ToList();
        return [(byte)needles.Count, (byte)(needles.Count >> 8), .. needles];
    }

    private static void WriteChunk(MemoryStream bytes, string letters, ReadOnlySpan<byte> payload)
    {
        var name = Encoding.ASCII.GetBytes(letters);
        Span<byte> number = stackalloc byte[sizeof(uint)];
        bytes.Write(name);
        BinaryPrimitives.WriteUInt32LittleEndian(number, (uint)payload.Length);
        bytes.Write(number);
        bytes.Write(payload);
        BinaryPrimitives.WriteUInt32LittleEndian(number, Checksum(name, payload));
        bytes.Write(number);
    }

    /// <summary>CRC-32 (ISO-HDLC) of a chunk's letters and payload.</summary>
    private static uint Checksum(ReadOnlySpan<byte> letters, ReadOnlySpan<byte> payload)
    {
        var crc = new Crc32();
        crc.Append(letters);
        crc.Append(payload);
        return crc.GetCurrentHashAsUInt32();
    }

    /// <summary>Walks the chunks in their order; unknown ones are skipped, and each is checked before it is used.</summary>
    private ref struct Evth2Chunks(ReadOnlySpan<byte> rest, int offset)
    {
        private static readonly string[] Known = ["INFO", "THRD", "STCH", "HOOP", "NDLE", "PICT", "ENDF"];
        private ReadOnlySpan<byte> _rest = rest;
        private int _offset = offset;

        public ReadOnlySpan<byte> Need(string letters) =>
            Take(letters, out var payload)
                ? payload
                : throw new StitchFileException($"The stitch file has no {letters} chunk where it belongs, at byte {_offset}. It is damaged; copy it again from where it came.");

        public bool Take(string letters, out ReadOnlySpan<byte> payload)
        {
            while (true)
            {
                if (_rest.Length < ChunkHeaderLength + CrcLength)
                    throw new StitchFileException($"The stitch file is cut short at byte {_offset + _rest.Length}: the {letters} chunk or the end is missing. Copy it again from where it came.");
                var name = Encoding.Latin1.GetString(_rest[..4]);
                var length = BinaryPrimitives.ReadUInt32LittleEndian(_rest[4..]);
                if (length > _rest.Length - ChunkHeaderLength - CrcLength)
                    throw new StitchFileException($"The stitch file is cut short or damaged: the chunk at byte {_offset} announces {length} bytes, and fewer follow. Copy it again from where it came.");
                payload = _rest.Slice(ChunkHeaderLength, (int)length);
                var crc = BinaryPrimitives.ReadUInt32LittleEndian(_rest[(ChunkHeaderLength + (int)length)..]);
                if (crc != Checksum(_rest[..4], payload))
                    throw new StitchFileException($"The stitch file is damaged: the checksum of the chunk at byte {_offset} does not agree. Copy it again from where it came.");
                if (name != letters && Known.Contains(name)) return false;
                var whole = ChunkHeaderLength + (int)length + CrcLength;
                _rest = _rest[whole..];
                _offset += whole;
                if (name == letters) return true;
            }
        }

        public void End()
        {
            if (Need("ENDF").Length != 0) throw new StitchFileException("The end chunk of the stitch file is not empty. It is damaged.");
            if (_rest.Length > 0) throw new StitchFileException($"The stitch file goes on after its end, at byte {_offset}. Copy it again from where it came.");
        }
    }
}
