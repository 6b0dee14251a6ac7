using System.Security.Cryptography;

namespace EvenThimble.Core.Stitches;

/// <summary>Names stored stitches or a stored shape by the SHA-256 of the bytes, 64 lower-case hexadecimal digits.</summary>
public readonly record struct BlobHash(string Hex)
{
    /// <summary>The hash of bytes.</summary>
    public static BlobHash Of(ReadOnlySpan<byte> bytes) => new(Convert.ToHexStringLower(SHA256.HashData(bytes)));

    /// <inheritdoc/>
    public override string ToString() => Hex;
}
