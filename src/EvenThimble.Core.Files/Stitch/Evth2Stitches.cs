using System.Collections.Immutable;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>The <c>STCH</c> chunk of a revision 2 stitch file.</summary>
internal static class Evth2Stitches
{
    public static (StitchBlob Blob, ImmutableArray<StitchFilePart> Parts) Read(ReadOnlySpan<byte> payload, ImmutableArray<SewingThread> threads)
    {
        var reader = new ByteReader(payload, "STCH");
        var announced = reader.U32();

        // A record takes at least one byte, so a count that lies cannot make us take memory for it.
        if (announced > reader.Left) throw new StitchFileException($"The stitch file announces {announced} records, more than its {reader.Left} bytes can hold. It is damaged.");
        if (announced > StitchFormats.MostRecords) throw new StitchFileException($"The stitch file has {announced} records, more than any machine takes ({StitchFormats.MostRecords}).");
        var count = (int)announced;
        var (x, y, kinds) = (GC.AllocateUninitializedArray<double>(count), GC.AllocateUninitializedArray<double>(count), GC.AllocateUninitializedArray<StitchKind>(count));
        var messages = ImmutableSortedDictionary.CreateBuilder<int, string>();
        var borders = new List<(int First, SewingThread Thread, PartRole Role)>();
        var n = 0;
        long qx = 0, qy = 0;
        for (var i = 0; i < count; i++)
        {
            var op = (StitchKind)reader.U8();
            switch (op)
            {
                case StitchKind.Stitch or StitchKind.Jump:
                    qx += reader.Zigzag();
                    qy += reader.Zigzag();
                    if (!Evth2Format.InReach(qx) || !Evth2Format.InReach(qy)) throw new StitchFileException($"The stitch file leaves the largest area it can describe (10 m from the centre) at record {i}. It is damaged.");
                    break;
                case StitchKind.ThreadChange:
                    borders.Add(ReadChange(ref reader, threads, i, n));
                    continue;
                case StitchKind.Stop:
                    if (reader.ShortText() is { Length: > 0 } message) messages[n] = message;
                    break;
                case StitchKind.Trim:
                    break;
                case StitchKind.End when i == count - 1:
                    reader.MustBeAtEnd();
                    return Assemble(new(x, y, kinds, n, messages.ToImmutable()), borders);
                case StitchKind.End:
                    throw new StitchFileException($"The stitch file ends at record {i}, though it announces {count}. It is damaged.");
                default:
                    throw new StitchFileException($"The stitch file is damaged at record {i}: {(int)op} is no kind of record.");
            }

            if (borders.Count == 0) throw new StitchFileException("The stitch file is damaged: its first record does not name a thread.");
            x[n] = Evth2Format.Mm(qx);
            y[n] = Evth2Format.Mm(qy);
            kinds[n++] = op;
        }

        throw new StitchFileException($"The stitch file announces {count} records, but none of them is the end. It is damaged.");
    }

    private static (int First, SewingThread Thread, PartRole Role) ReadChange(ref ByteReader reader, ImmutableArray<SewingThread> threads, int record, int first)
    {
        var index = reader.Leb128();
        var role = reader.U8();
        if (index >= threads.Length) throw new StitchFileException($"The stitch file asks for thread {index + 1} at record {record}, but names only {threads.Length}. It is damaged.");
        if (!PartRoles.IsKnown(role)) throw new StitchFileException($"The stitch file is damaged at record {record}: {role} is no role of a part.");
        return (first, threads[(int)index], (PartRole)role);
    }

    private static (StitchBlob Blob, ImmutableArray<StitchFilePart> Parts) Assemble(StitchBlob blob, List<(int First, SewingThread Thread, PartRole Role)> borders)
    {
        var parts = borders
            .Select((b, i) => new StitchFilePart(b.First, (i + 1 < borders.Count ? borders[i + 1].First : blob.Count) - b.First, b.Thread, b.Role))
            .Where(p => p.Count > 0);
        return (blob, [.. parts]);
    }

    public static byte[] Write(StitchFile file, ImmutableArray<SewingThread> threads)
    {
        var index = threads.Select((t, i) => (t, i)).ToDictionary(p => p.t, p => p.i);
        var bytes = new List<byte>((file.Stitches.Count * 4) + 16) { 0, 0, 0, 0 };
        uint count = 0;
        var (qx, qy) = (0, 0);
        foreach (var part in file.Parts)
        {
            bytes.Add((byte)StitchKind.ThreadChange);
            Leb128(bytes, (uint)index[part.Thread]);
            bytes.Add((byte)part.Role);
            count++;
            for (var i = part.First; i < part.First + part.Count; i++, count++)
            {
                var kind = file.Stitches.Kinds[i];
                bytes.Add((byte)kind);
                if (kind is StitchKind.Stitch or StitchKind.Jump)
                {
                    var (tx, ty) = (Evth2Format.Units(file.Stitches.X[i]), Evth2Format.Units(file.Stitches.Y[i]));
                    Zigzag(bytes, tx - qx);
                    Zigzag(bytes, ty - qy);
                    (qx, qy) = (tx, ty);
                }
                else if (kind == StitchKind.Stop)
                {
                    var message = Evth.Utf8(file.Stitches.Messages.GetValueOrDefault(i, string.Empty), Evth2Format.LongestMessage);
                    bytes.Add((byte)message.Length);
                    bytes.AddRange(message);
                }
            }
        }

        bytes.Add((byte)StitchKind.End);
        count++;
        for (var b = 0; b < sizeof(uint); b++) bytes[b] = (byte)(count >> (8 * b));
        return [.. bytes];
    }

    private static void Zigzag(List<byte> bytes, int value) => Leb128(bytes, (uint)((value << 1) ^ (value >> 31)));

    private static void Leb128(List<byte> bytes, uint value)
    {
        while (value >= 0x80)
        {
            bytes.Add((byte)(value | 0x80));
            value >>= 7;
        }

        bytes.Add((byte)value);
    }
}
