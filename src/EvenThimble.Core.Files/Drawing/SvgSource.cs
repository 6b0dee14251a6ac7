using System.IO.Compression;
using System.Xml;
using System.Xml.Linq;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>
/// The XML of a drawing. A document type may be declared, as common drawing programs do; what it points at is never fetched, and what it defines itself is put in within a strict limit.
/// </summary>
internal static class SvgSource
{
    /// <summary>The largest drawing that is read, bytes, unpacked too.</summary>
    public const int LargestFile = 16 << 20;

    private const int MostFromEntities = 1 << 20;
    private const int MostElements = 200_000;
    private const int DeepestNesting = 200;

    /// <summary>The root of a drawing, plain or packed with gzip.</summary>
    /// <exception cref="StitchFileException">It cannot be used; the message says why.</exception>
    public static XElement Read(byte[] bytes)
    {
        if (bytes is [0x1F, 0x8B, ..]) bytes = Unpacked(bytes);
        if (bytes.Length > LargestFile) throw TooLarge();
        try
        {
            Look(bytes);
            using var reader = ReaderOf(bytes);
            var root = XDocument.Load(reader).Root!;
            return root.Name.LocalName == "svg" ? root : throw new StitchFileException("The file is XML, but no SVG drawing.");
        }
        catch (XmlException e)
        {
            throw new StitchFileException(e.Message.Contains("MaxCharacters", StringComparison.Ordinal)
                ? "The drawing defines pieces of text that would make it far larger than it is; it was not opened. Save it as plain SVG and try again."
                : $"This is no SVG drawing, or it is damaged at line {e.LineNumber}. Save it again as SVG and try once more.");
        }
        catch (Exception e) when (e is ArgumentException or InvalidOperationException or NotSupportedException)
        {
            throw new StitchFileException("This is no SVG drawing, or it is written in letters that cannot be read. Save it again as SVG and try once more.");
        }
    }

    /// <summary>Goes through it once without keeping anything, so that nothing is kept of what is too much.</summary>
    private static void Look(byte[] bytes)
    {
        using var reader = ReaderOf(bytes);
        for (var elements = 0; reader.Read();)
        {
            if (reader.NodeType != XmlNodeType.Element) continue;
            if (++elements > MostElements) throw new StitchFileException($"The drawing has more than {MostElements:N0} elements, far more than could be stitched. Simplify it and bring it in again.");
            if (reader.Depth > DeepestNesting) throw new StitchFileException($"The drawing nests groups more than {DeepestNesting} deep. Ungroup it and save it again.");
        }
    }

    private static XmlReader ReaderOf(byte[] bytes) => XmlReader.Create(new MemoryStream(bytes), new()
    {
        DtdProcessing = DtdProcessing.Parse,
        XmlResolver = null,
        MaxCharactersFromEntities = MostFromEntities,
        MaxCharactersInDocument = LargestFile,
        IgnoreComments = true,
        IgnoreProcessingInstructions = true,
    });

    private static byte[] Unpacked(byte[] bytes)
    {
        try
        {
            using var unpacking = new GZipStream(new MemoryStream(bytes), CompressionMode.Decompress);
            using var unpacked = new MemoryStream();
            var buffer = new byte[81_920];
            for (int n; (n = unpacking.Read(buffer)) > 0;)
            {
                if (unpacked.Length + n > LargestFile) throw TooLarge();
                unpacked.Write(buffer, 0, n);
            }

            return unpacked.ToArray();
        }
        catch (InvalidDataException)
        {
            throw new StitchFileException("The drawing is packed, and damaged. Copy it again from where it came.");
        }
    }

    private static StitchFileException TooLarge() => new($"The drawing is larger than {LargestFile >> 20} MB. Simplify it, or bring it in by parts.");
}
