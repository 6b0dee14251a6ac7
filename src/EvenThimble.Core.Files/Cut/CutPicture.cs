using System.Buffers.Binary;
using System.IO.Hashing;
using System.Text;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Cut;

/// <summary>The size of a PNG picture in millimetres, by its <c>pHYs</c> chunk (PNG specification, 11.3.4.3): how cutters that take pictures know it.</summary>
public static class CutPicture
{
    /// <summary>Dots an inch of pictures that are written.</summary>
    public const int DotsPerInch = 300;

    private const int LargestSide = 20_000;
    private const int ChunkOverhead = 12;
    private static readonly byte[] Signature = [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A];

    private static uint DotsPerMetre => (uint)Math.Round(DotsPerInch / 0.0254);

    /// <summary>The picture with its density written behind its header; one that it has already is replaced.</summary>
    public static byte[] WithDensity(byte[] png)
    {
        using var made = new MemoryStream(png.Length + 32);
        made.Write(Signature);
        foreach (var (name, from, length) in Chunks(png))
        {
            if (name == "pHYs") continue;
            made.Write(png.AsSpan(from, length));
            if (name == "IHDR") made.Write(Density());
        }

        return made.ToArray();
    }

    /// <summary>Width and height in dots, and in mm as the picture tells.</summary>
    /// <exception cref="StitchFileException">It is no sound PNG, or does not tell its size.</exception>
    public static (int Across, int Down, double WidthMm, double HeightMm) SizeOf(byte[] png)
    {
        var (across, down, perMetre) = (0, 0, 0.0);
        foreach (var (name, from, length) in Chunks(png))
        {
            var data = png.AsSpan(from + 8, length - ChunkOverhead);
            if (name == "IHDR" && data.Length >= 8) (across, down) = (BinaryPrimitives.ReadInt32BigEndian(data), BinaryPrimitives.ReadInt32BigEndian(data[4..]));
            if (name == "pHYs" && data.Length >= 9 && data[8] == 1 && BinaryPrimitives.ReadUInt32BigEndian(data) == BinaryPrimitives.ReadUInt32BigEndian(data[4..])) perMetre = BinaryPrimitives.ReadUInt32BigEndian(data);
        }

        if (across is < 1 or > LargestSide || down is < 1 or > LargestSide) throw new StitchFileException("The picture has a size that cannot be.");
        return perMetre > 0 ? (across, down, across * 1000 / perMetre, down * 1000 / perMetre) : throw new StitchFileException("The picture does not tell how many dots it has to an inch, so its size cannot be known.");
    }

    private static List<(string Name, int From, int Length)> Chunks(byte[] png)
    {
        if (!png.AsSpan().StartsWith(Signature)) throw new StitchFileException("It is no PNG picture.");
        var chunks = new List<(string, int, int)>();
        for (var at = Signature.Length; at < png.Length;)
        {
            if (at + ChunkOverhead > png.Length) throw new StitchFileException("The picture is cut short.");
            var data = BinaryPrimitives.ReadUInt32BigEndian(png.AsSpan(at));
            if (data > png.Length - at - ChunkOverhead) throw new StitchFileException("The picture is cut short.");
            var name = Encoding.Latin1.GetString(png, at + 4, 4);
            chunks.Add((name, at, (int)data + ChunkOverhead));
            if (name == "IEND") return chunks;
            at += (int)data + ChunkOverhead;
        }

        throw new StitchFileException("The picture is cut short.");
    }

    private static byte[] Density()
    {
        var chunk = new byte[21];
        BinaryPrimitives.WriteUInt32BigEndian(chunk, 9);
        Encoding.ASCII.GetBytes("pHYs", chunk.AsSpan(4));
        BinaryPrimitives.WriteUInt32BigEndian(chunk.AsSpan(8), DotsPerMetre);
        BinaryPrimitives.WriteUInt32BigEndian(chunk.AsSpan(12), DotsPerMetre);
        chunk[16] = 1;
        BinaryPrimitives.WriteUInt32BigEndian(chunk.AsSpan(17), Crc32.HashToUInt32(chunk.AsSpan(4, 13)));
        return chunk;
    }
}
