using System.Buffers.Binary;

namespace EvenThimble.Core.Formats;

/// <summary>CRC-32 (ISO-HDLC, as in zip): polynomial 0x04C11DB7 reflected, eight bytes a step ("slicing by 8", Kounavis and Berry 2005).</summary>
public static class Crc32
{
    private const uint Polynomial = 0xEDB88320;
    private static readonly uint[][] Tables = MakeTables();

    /// <summary>The checksum of bytes.</summary>
    public static uint Of(ReadOnlySpan<byte> bytes) => Append(0, bytes);

    /// <summary>The checksum of what <paramref name="crc"/> was the checksum of, followed by more bytes.</summary>
    public static uint Append(uint crc, ReadOnlySpan<byte> bytes)
    {
        crc = ~crc;
        while (bytes.Length >= 8)
        {
            var low = crc ^ BinaryPrimitives.ReadUInt32LittleEndian(bytes);
            var high = BinaryPrimitives.ReadUInt32LittleEndian(bytes[4..]);
            crc = Tables[7][low & 0xFF] ^ Tables[6][(low >> 8) & 0xFF] ^ Tables[5][(low >> 16) & 0xFF] ^ Tables[4][low >> 24]
                ^ Tables[3][high & 0xFF] ^ Tables[2][(high >> 8) & 0xFF] ^ Tables[1][(high >> 16) & 0xFF] ^ Tables[0][high >> 24];
            bytes = bytes[8..];
        }

        foreach (var b in bytes) crc = (crc >> 8) ^ Tables[0][(crc ^ b) & 0xFF];
        return ~crc;
    }

    private static uint[][] MakeTables()
    {
        var tables = Enumerable.Range(0, 8).Select(_ => new uint[256]).ToArray();
        for (uint n = 0; n < 256; n++)
        {
            var c = n;
            for (var k = 0; k < 8; k++) c = (c & 1) != 0 ? (c >> 1) ^ Polynomial : c >> 1;
            tables[0][n] = c;
        }

        for (var n = 0; n < 256; n++)
            for (var t = 1; t < 8; t++)
                tables[t][n] = (tables[t - 1][n] >> 8) ^ tables[0][tables[t - 1][n] & 0xFF];
        return tables;
    }
}
