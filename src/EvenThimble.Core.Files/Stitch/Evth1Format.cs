using System.Buffers.Binary;
using System.Collections.Immutable;
using System.IO.Hashing;
using System.Text;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>What both revisions of the stitch file share.</summary>
public static class Evth
{
    /// <summary>The first four bytes.</summary>
    public static ReadOnlySpan<byte> Magic => "EVTH"u8;

    /// <summary>Text as UTF-8 in at most so many bytes, never cut inside what a reader sees as a letter.</summary>
    public static byte[] Utf8(string text, int mostBytes)
    {
        var bytes = new List<byte>(mostBytes);
        var letters = System.Globalization.StringInfo.GetTextElementEnumerator(text);
        while (letters.MoveNext())
        {
            var letter = Encoding.UTF8.GetBytes(letters.GetTextElement());
            if (bytes.Count + letter.Length > mostBytes) break;
            bytes.AddRange(letter);
        }

        return [.. bytes];
    }
}

/// <summary>The <c>.evth</c> stitch file, revision 1: no colours, records of three bytes in steps of 0.1 mm.</summary>
public sealed class Evth1Format : IStitchFormat
{
    private const byte Revision = 1;
    private const int HeaderLength = 64;
    private const int RecordLength = 3;
    private const int TitleAt = 26;
    private const int TitleLength = 32;
    private const int UnitsPerMm = 10;
    private const int LongestStep = 127;

    /// <inheritdoc/>
    public StitchFileKind Kind => StitchFileKind.Evth1;

    /// <inheritdoc/>
    public double ToleranceMm => 0.0501;

    /// <inheritdoc/>
    public bool CarriesThreads => false;

    /// <inheritdoc/>
    public bool Recognises(ReadOnlySpan<byte> bytes) => bytes.StartsWith(Evth.Magic) && !(bytes.Length > Evth.Magic.Length && bytes[Evth.Magic.Length] == Evth2Format.Revision);

    /// <inheritdoc/>
    public IEnumerable<string> Losses(StitchFile file)
    {
        yield return "Revision 1 carries no colours: follow the order of threads on the bench.";
        if (StitchFormats.HasRoles(file)) yield return "Revision 1 carries no roles of parts.";
        if (file.Stitches.Messages.Count > 0) yield return "Revision 1 carries no messages at stops.";
        yield return "Places are rounded to 0.1 mm.";
    }

    /// <summary>Reads a file. Threads are stand-ins: the revision carries none.</summary>
    /// <exception cref="StitchFileException">The file is damaged.</exception>
    public StitchFile Read(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < HeaderLength) throw new StitchFileException($"The stitch file is cut short in its header: {bytes.Length} of {HeaderLength} bytes are there. Copy it again from where it came.");
        if (!bytes.StartsWith(Evth.Magic)) throw new StitchFileException("This is not a stitch file: it does not begin with EVTH.");
        if (bytes[4] != Revision) throw new StitchFileException($"The stitch file says it is revision {bytes[4]}; revisions 1 and 2 can be read.");
        if (bytes[5] != HeaderLength) throw new StitchFileException($"The header of the stitch file is damaged at byte 5: it gives its length as {bytes[5]}, not {HeaderLength}. Copy the file again.");
        var count = BinaryPrimitives.ReadUInt32LittleEndian(bytes[8..]);
        var records = bytes[HeaderLength..];
        if (records.Length != count * (long)RecordLength)
        {
            var found = records.Length / RecordLength;
            throw new StitchFileException(records.Length < count * (long)RecordLength
                ? $"The stitch file is cut short: it announces {count} records, but {found} are there. Copy it again from where it came."
                : $"The stitch file is too long: it announces {count} records, and more bytes follow. Copy it again from where it came.");
        }

        if (count > StitchFormats.MostRecords) throw new StitchFileException($"The stitch file has {count} records, more than any machine takes ({StitchFormats.MostRecords}).");
        if (Crc32.HashToUInt32(records) != BinaryPrimitives.ReadUInt32LittleEndian(bytes[22..]))
            throw new StitchFileException("The stitches of the file are damaged: their checksum does not agree. Copy it again from where it came.");
        return Decode(bytes, records, (int)count);
    }

    private static StitchFile Decode(ReadOnlySpan<byte> header, ReadOnlySpan<byte> records, int count)
    {
        if (count == 0 || records[^RecordLength] != (byte)StitchKind.End) throw new StitchFileException("The stitch file has no end record. Copy it again from where it came.");
        var (x, y, kinds) = (new double[count - 1], new double[count - 1], new StitchKind[count - 1]);
        var (starts, n, qx, qy) = (new List<int> { 0 }, 0, 0, 0);
        for (var i = 0; i < count - 1; i++)
        {
            var record = records.Slice(i * RecordLength, RecordLength);
            var op = (StitchKind)record[0];
            var (dx, dy) = ((sbyte)record[1], (sbyte)record[2]);
            switch (op)
            {
                case StitchKind.Stitch or StitchKind.Jump:
                    (qx, qy) = (qx + dx, qy + dy);
                    if (qx is < short.MinValue or > short.MaxValue || qy is < short.MinValue or > short.MaxValue)
                        throw new StitchFileException($"The stitch file leaves the largest area it can describe (3.2 m from the centre) at record {i}. It is damaged.");
                    break;
                case StitchKind.Trim or StitchKind.Stop or StitchKind.ThreadChange:
                    if (dx != 0 || dy != 0) throw new StitchFileException($"The stitch file is damaged at record {i}: a {Word(op)} must not move.");
                    if (op == StitchKind.ThreadChange)
                    {
                        starts.Add(n);
                        continue;
                    }

                    break;
                case StitchKind.End:
                    throw new StitchFileException($"The stitch file ends at record {i}, though it announces {count} records. It is damaged.");
                default:
                    throw new StitchFileException($"The stitch file is damaged at record {i}: {record[0]} is no kind of record.");
            }

            (x[n], y[n], kinds[n]) = (qx / (double)UnitsPerMm, qy / (double)UnitsPerMm, op);
            n++;
        }

        var announced = BinaryPrimitives.ReadUInt16LittleEndian(header[12..]);
        if (announced != starts.Count - 1) throw new StitchFileException($"The stitch file announces {announced} thread changes, but holds {starts.Count - 1}. It is damaged.");
        var blob = new StitchBlob(x, y, kinds, n, null);
        var parts = starts.Select((first, i) => new StitchFilePart(first, (i + 1 < starts.Count ? starts[i + 1] : n) - first, SewingThread.Unnamed(i), PartRole.Decoration))
            .Where(p => p.Count > 0);
        var file = new StitchFile(ReadTitle(header.Slice(TitleAt, TitleLength)), blob, [.. parts]);
        var notes = ImmutableArray.Create("Revision 1 carries no colours; each thread is shown in a stand-in colour.");
        return file with { Notes = BoundsAgree(header, file) ? notes : notes.Add("The size in the header did not agree with the stitches; the stitches were measured.") };
    }

    private static bool BoundsAgree(ReadOnlySpan<byte> header, StitchFile file)
    {
        var b = file.Bounds;
        if (b.IsEmpty) return true;
        int[] measured = [Units(b.MinX), Units(b.MinY), Units(b.MaxX), Units(b.MaxY)];
        for (var i = 0; i < measured.Length; i++)
            if (BinaryPrimitives.ReadInt16LittleEndian(header[(14 + (2 * i))..]) != measured[i])
                return false;
        return true;
    }

    /// <summary>Writes a file. Neighbouring parts of one thread become one, since the machine would not stop between them.</summary>
    /// <exception cref="StitchFileException">It is larger than the revision can describe.</exception>
    public byte[] Write(StitchFile file)
    {
        var b = file.Bounds;
        if (new[] { b.MinX, b.MinY, b.MaxX, b.MaxY }.Any(v => Math.Abs(v) * UnitsPerMm > short.MaxValue))
            throw new StitchFileException("The job reaches farther than 3.2 m from the centre, which a revision 1 stitch file cannot describe. Centre it first.");
        var records = new List<byte>((file.Stitches.Count + file.Parts.Length + 1) * RecordLength);
        var (qx, qy, changes) = (0, 0, 0);
        SewingThread? thread = null;
        foreach (var part in file.Parts)
        {
            if (thread is not null && thread != part.Thread)
            {
                records.AddRange([(byte)StitchKind.ThreadChange, 0, 0]);
                changes++;
            }

            thread = part.Thread;
            for (var i = part.First; i < part.First + part.Count; i++)
            {
                var kind = file.Stitches.Kinds[i];
                if (kind is not (StitchKind.Stitch or StitchKind.Jump))
                {
                    records.AddRange([(byte)kind, 0, 0]);
                    continue;
                }

                var (tx, ty) = (Units(file.Stitches.X[i]), Units(file.Stitches.Y[i]));
                if (Math.Abs(tx) > short.MaxValue || Math.Abs(ty) > short.MaxValue) throw new StitchFileException("A jump leads farther than 3.2 m from the centre, which a revision 1 stitch file cannot describe.");
                WriteSteps(records, kind, tx - qx, ty - qy);
                (qx, qy) = (tx, ty);
            }
        }

        records.AddRange([(byte)StitchKind.End, 0, 0]);
        if (changes > ushort.MaxValue) throw new StitchFileException("There are more thread changes than a revision 1 stitch file can count (65,535).");
        return [.. Header(file, records, changes), .. records];
    }

    /// <summary>A step too long for one record goes as several jumps, the last of the kind that was meant.</summary>
    private static void WriteSteps(List<byte> records, StitchKind kind, int dx, int dy)
    {
        var steps = Math.Max(1, (Math.Max(Math.Abs(dx), Math.Abs(dy)) + LongestStep - 1) / LongestStep);
        var (doneX, doneY) = (0, 0);
        for (var s = 1; s <= steps; s++)
        {
            var (x, y) = (dx * s / steps, dy * s / steps);
            records.AddRange([(byte)(s < steps ? StitchKind.Jump : kind), (byte)(sbyte)(x - doneX), (byte)(sbyte)(y - doneY)]);
            (doneX, doneY) = (x, y);
        }
    }

    private static byte[] Header(StitchFile file, List<byte> records, int changes)
    {
        var header = new byte[HeaderLength];
        Evth.Magic.CopyTo(header);
        header[4] = Revision;
        header[5] = HeaderLength;
        BinaryPrimitives.WriteUInt32LittleEndian(header.AsSpan(8), (uint)(records.Count / RecordLength));
        BinaryPrimitives.WriteUInt16LittleEndian(header.AsSpan(12), (ushort)changes);
        var b = file.Bounds;
        double[] edges = [b.MinX, b.MinY, b.MaxX, b.MaxY];
        for (var i = 0; i < edges.Length; i++) BinaryPrimitives.WriteInt16LittleEndian(header.AsSpan(14 + (2 * i)), (short)Units(edges[i]));
        BinaryPrimitives.WriteUInt32LittleEndian(header.AsSpan(22), Crc32.HashToUInt32(records.ToArray()));
        Evth.Utf8(Titles.Clean(file.Title), TitleLength).CopyTo(header, TitleAt);
        return header;
    }

    private static int Units(double mm) => (int)Math.Round(mm * UnitsPerMm, MidpointRounding.AwayFromZero);

    private static string ReadTitle(ReadOnlySpan<byte> bytes)
    {
        var end = bytes.IndexOf((byte)0);
        return Titles.Clean(Encoding.UTF8.GetString(end < 0 ? bytes : bytes[..end]));
    }

    private static string Word(StitchKind kind) => kind switch
    {
        StitchKind.Trim => "trim",
        StitchKind.ThreadChange => "thread change",
        _ => "stop",
    };
}
