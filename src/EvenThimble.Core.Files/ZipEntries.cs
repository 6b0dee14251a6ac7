using System.IO.Compression;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files;

/// <summary>Entries of ZIP archives, read without trusting what the archive says of them.</summary>
internal static class ZipEntries
{
    private const long LargestEntry = 72L << 20;
    private const int MostRatio = 200;

    // Below this nothing swells to harm.
    private const long Harmless = 1 << 20;
    private static readonly DateTimeOffset AlwaysTheSame = new(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>Adds an entry; the same content gives the same bytes.</summary>
    public static void Add(ZipArchive zip, string name, byte[] bytes)
    {
        var entry = zip.CreateEntry(name, CompressionLevel.Fastest);
        entry.LastWriteTime = AlwaysTheSame;
        using var stream = entry.Open();
        stream.Write(bytes);
    }

    /// <summary>Reads an entry, trusting neither its stated length nor its ratio.</summary>
    /// <param name="entry">The entry.</param>
    /// <param name="left">How many bytes all entries together may still have; becomes less.</param>
    /// <param name="what">What the archive is, for the sentence.</param>
    /// <exception cref="StitchFileException">It is larger than it may be.</exception>
    public static byte[] Read(ZipArchiveEntry entry, ref long left, string what)
    {
        var most = Math.Min(Math.Min(LargestEntry, left), Math.Max(Harmless, entry.CompressedLength * MostRatio));
        using var stream = entry.Open();
        using var bytes = new MemoryStream();
        var buffer = new byte[81_920];
        for (int n; (n = stream.Read(buffer)) > 0;)
        {
            if (bytes.Length + n > most) throw new StitchFileException($"The {what} swells up to far more than any needs. It was not opened.");
            bytes.Write(buffer, 0, n);
        }

        left -= bytes.Length;
        return bytes.ToArray();
    }
}
