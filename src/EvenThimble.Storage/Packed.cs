using System.IO.Compression;
using System.Text;

namespace EvenThimble.Storage;

/// <summary>Bytes and texts packed with Brotli (RFC 7932).</summary>
internal static class Packed
{
    // Quick enough that nobody waits for it, and lines that are nearly alike still go down to a few bytes.
    private const int Quality = 5;
    private const int Window = 22;
    private const int Most = 128 << 20;

    public static byte[] Of(string text) => Of(Encoding.UTF8.GetBytes(text));

    public static byte[] Of(ReadOnlySpan<byte> bytes)
    {
        var packed = new byte[BrotliEncoder.GetMaxCompressedLength(bytes.Length)];
        return BrotliEncoder.TryCompress(bytes, packed, out var length, Quality, Window) ? packed[..length] : throw new InvalidOperationException("The bytes could not be packed.");
    }

    public static string Text(byte[] packed) => Encoding.UTF8.GetString(Bytes(packed));

    /// <exception cref="InvalidDataException">They are not packed bytes, or far more than anything that is stored.</exception>
    public static byte[] Bytes(byte[] packed) => TryBytes(packed) ?? throw new InvalidDataException("What is stored cannot be unpacked.");

    /// <summary>The bytes, or null where they cannot be unpacked.</summary>
    public static byte[]? TryBytes(byte[] packed)
    {
        try
        {
            using var unpacking = new BrotliStream(new MemoryStream(packed), CompressionMode.Decompress);
            using var bytes = new MemoryStream();
            var buffer = new byte[81_920];
            for (int n; (n = unpacking.Read(buffer)) > 0;)
            {
                if (bytes.Length + n > Most) return null;
                bytes.Write(buffer, 0, n);
            }

            return bytes.ToArray();
        }
        catch (Exception e) when (e is InvalidDataException or InvalidOperationException or IOException)
        {
            return null;
        }
    }
}
