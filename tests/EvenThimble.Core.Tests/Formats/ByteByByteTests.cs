using System.Buffers.Binary;
using System.IO.Hashing;
using System.Text;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Tests.Formats;

/// <summary>The stitch file to the byte, put together by hand here so that reader and writer cannot agree on a mistake.</summary>
public class ByteByByteTests
{
    /// <summary>CRC-32 bit by bit, as the standard defines it.</summary>
    internal static uint PlainCrc(ReadOnlySpan<byte> bytes)
    {
        var crc = 0xFFFFFFFF;
        foreach (var b in bytes)
        {
            crc ^= b;
            for (var k = 0; k < 8; k++) crc = (crc & 1) != 0 ? (crc >> 1) ^ 0xEDB88320 : crc >> 1;
        }

        return ~crc;
    }

    [Fact]
    public void The_checksum_is_that_of_the_standard() => Crc32.HashToUInt32("123456789"u8).ShouldBe(0xCBF43926u);

    [Fact]
    public void The_checksum_agrees_with_the_plain_one_at_every_length()
    {
        var bytes = new byte[70];
        new Random(1).NextBytes(bytes);
        for (var n = 0; n <= bytes.Length; n++) Crc32.HashToUInt32(bytes.AsSpan(0, n)).ShouldBe(PlainCrc(bytes.AsSpan(0, n)));
    }

    [Fact]
    public void Revision_1_lies_as_described()
    {
        byte[] records = [1, 10, 0xEC, 0, 0, 0, 0, 25, 0, 2, 0, 0, 3, 0, 0, 1, 0x81, 127, 0, 1, 1, 4, 0, 0, 255, 0, 0];
        var bytes = Revision1(records, changes: 1, box: [-91, -20, 35, 108], "Orbit");
        var file = StitchFormats.Read(bytes, "x.evth").File;
        file.Title.ShouldBe("Orbit");
        file.Parts.Length.ShouldBe(2);
        file.Notes.Length.ShouldBe(1);
        file.Stitches.Kinds.ToArray().ShouldBe([StitchKind.Jump, StitchKind.Stitch, StitchKind.Stitch, StitchKind.Trim, StitchKind.Jump, StitchKind.Stitch, StitchKind.Stop]);
        file.Stitches.X.ToArray().ShouldBe([1, 1, 3.5, 3.5, -9.2, -9.1, -9.1]);
        file.Stitches.Y.ToArray().ShouldBe([-2, -2, -2, -2, 10.7, 10.8, 10.8]);
    }

    [Fact]
    public void Revision_1_is_written_as_described()
    {
        var builder = new StitchBuilder();
        builder.Jump(new(1, -2));
        builder.Stitch(new(1, -2));
        builder.Stitch(new(3.5, -2));
        builder.Trim();
        builder.Stitch(new(3.54, -1.96));
        var file = new StitchFile("Orbit", builder.ToBlob(), [new(0, 4, MadeUp.Thread("a"), PartRole.Decoration), new(4, 1, MadeUp.Thread("b"), PartRole.Cover)]);
        byte[] records = [1, 10, 0xEC, 0, 0, 0, 0, 25, 0, 2, 0, 0, 3, 0, 0, 0, 0, 0, 255, 0, 0];
        StitchFormats.Write(StitchFileKind.Evth1, file).ShouldBe(Revision1(records, changes: 1, box: [10, -20, 35, -20], "Orbit"));
    }

    [Fact]
    public void Revision_2_lies_as_described_and_unknown_chunks_are_skipped()
    {
        var bytes = Revision2(
            ("INFO", "{\"title\":\"Orbit\",\"width_mm\":1,\"height_mm\":1,\"stitches\":3,\"made_with\":\"by hand\"}"u8.ToArray()),
            ("XTRA", [1, 2, 3]),
            ("THRD", [2, 0, 0x2F, 0x4B, 0x7C, 1, (byte)'F', 2, (byte)'4', (byte)'2', 0, 9, 8, 7, 0, 0, 2, 0xC3, 0xA9]),
            ("STCH", [9, 0, 0, 0, 3, 0, 0, 1, 0xC8, 0x01, 1, 0, 0, 0, 0, 3, 4, 2, 3, 1, 3, 0, 2, 2, 4, 2, (byte)'h', (byte)'i', 255]),
            ("ENDF", []));
        var file = StitchFormats.Read(bytes, "x.evth").File;
        file.Title.ShouldBe("Orbit");
        file.Stitches.X.ToArray().ShouldBe([1, 1, 0.98, 0.98, 0.99, 0.99]);
        file.Stitches.Y.ToArray().ShouldBe([-0.01, -0.01, 0.01, 0.01, 0.02, 0.02]);
        file.Parts.Select(p => p.Role).ShouldBe([PartRole.Decoration, PartRole.Cover]);
        file.Parts[0].Thread.ShouldBe(new("F", "42", string.Empty, new(0x2F, 0x4B, 0x7C)));
        file.Parts[1].Thread.Name.ShouldBe("é");
        file.Stitches.Messages[5].ShouldBe("hi");
        file.Notes.ShouldBeEmpty();
    }

    [Fact]
    public void Revision_2_is_written_as_described()
    {
        var builder = new StitchBuilder();
        builder.Jump(new(1, -0.01));
        builder.Stitch(new(1, -0.01));
        builder.Stop("hi");
        var thread = MadeUp.Thread("42") with { Maker = "F", Name = "é" };
        var bytes = StitchFormats.Write(StitchFileKind.Evth2, new("Orbit", builder.ToBlob(), [new(0, 3, thread, PartRole.Cover)]));
        bytes[..8].ShouldBe([.. "EVTH"u8, 2, 0, 0, 0]);
        var chunks = Chunks(bytes);
        chunks.Select(c => c.Name).ShouldBe(["INFO", "THRD", "STCH", "ENDF"]);
        chunks[1].Payload.ShouldBe([1, 0, thread.Colour.R, thread.Colour.G, thread.Colour.B, 1, (byte)'F', 2, (byte)'4', (byte)'2', 2, 0xC3, 0xA9]);
        chunks[2].Payload.ShouldBe([5, 0, 0, 0, 3, 0, 3, 1, 0xC8, 0x01, 1, 0, 0, 0, 4, 2, (byte)'h', (byte)'i', 255]);
        chunks[3].Payload.ShouldBeEmpty();
    }

    [Fact]
    public void G_code_says_what_a_machine_tool_reads()
    {
        var builder = new StitchBuilder();
        builder.Jump(new(1, 2));
        builder.Stitch(new(1, 2));
        builder.Trim();
        builder.Stitch(new(-0.33333, 0));
        builder.Stop("Lay (moon) fabric");
        var file = new StitchFile("Orbit (2)", builder.ToBlob(), [new(0, 3, MadeUp.Thread("7"), PartRole.Decoration), new(3, 2, MadeUp.Thread("8"), PartRole.Decoration)]);
        var lines = Encoding.UTF8.GetString(StitchFormats.Write(StitchFileKind.GCode, file)).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        lines.Skip(1).ShouldBe(
        [
            "(Orbit [2])", "(size 1.3 x 2.0 mm)", "(stitches 2)", "(first thread: Fenlight 7 7)", "G21 G90", "G0 X1 Y-2", "G1 X1 Y-2", "M5",
            "M0 (thread: Fenlight 8 8)", "G1 X-0.3333 Y0", "M1 (Lay [moon] fabric)", "M30",
        ]);
    }

    internal static byte[] Revision1(byte[] records, ushort changes, short[] box, string title, uint? count = null)
    {
        var header = new byte[64];
        "EVTH"u8.CopyTo(header);
        header[4] = 1;
        header[5] = 64;
        BinaryPrimitives.WriteUInt32LittleEndian(header.AsSpan(8), count ?? (uint)(records.Length / 3));
        BinaryPrimitives.WriteUInt16LittleEndian(header.AsSpan(12), changes);
        for (var i = 0; i < 4; i++) BinaryPrimitives.WriteInt16LittleEndian(header.AsSpan(14 + (2 * i)), box[i]);
        BinaryPrimitives.WriteUInt32LittleEndian(header.AsSpan(22), PlainCrc(records));
        Encoding.UTF8.GetBytes(title).CopyTo(header, 26);
        return [.. header, .. records];
    }

    internal static byte[] Revision2(params (string Name, byte[] Payload)[] chunks)
    {
        var bytes = new List<byte>([.. "EVTH"u8, 2, 0, 0, 0]);
        foreach (var (name, payload) in chunks)
        {
            byte[] letters = Encoding.ASCII.GetBytes(name);
            bytes.AddRange(letters);
            bytes.AddRange(BitConverter.GetBytes((uint)payload.Length));
            bytes.AddRange(payload);
            bytes.AddRange(BitConverter.GetBytes(PlainCrc([.. letters, .. payload])));
        }

        return [.. bytes];
    }

    private static List<(string Name, byte[] Payload)> Chunks(byte[] bytes)
    {
        var chunks = new List<(string, byte[])>();
        for (var at = 8; at < bytes.Length;)
        {
            var length = BitConverter.ToInt32(bytes, at + 4);
            var payload = bytes[(at + 8)..(at + 8 + length)];
            BitConverter.ToUInt32(bytes, at + 8 + length).ShouldBe(PlainCrc([.. bytes[at..(at + 4)], .. payload]));
            chunks.Add((Encoding.ASCII.GetString(bytes, at, 4), payload));
            at += 12 + length;
        }

        return chunks;
    }
}
