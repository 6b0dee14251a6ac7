using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;
using EvenThimble.Storage;

namespace EvenThimble.Web.Workroom;

/// <summary>Takes files in: reads them, draws their picture, puts them on the shelf.</summary>
public sealed class Importer(DesignStore designs)
{
    private const int PictureWidth = 480;
    private const int PictureHeight = 360;

    /// <summary>Takes one file in.</summary>
    /// <exception cref="StitchFileException">It cannot be read; nothing was stored.</exception>
    public ImportResult Import(string fileName, byte[] bytes, string tags = "") => designs.Import(Read(fileName, bytes, tags));

    /// <summary>Reads a file as it would be taken in.</summary>
    /// <exception cref="StitchFileException">It cannot be read.</exception>
    public static NewDesign Read(string fileName, byte[] bytes, string tags = "")
    {
        var (kind, file) = StitchFormats.Read(bytes, fileName);
        return new(file, kind, fileName.Split('/', '\\')[^1], bytes, ThreadPainter.Picture(file, PictureWidth, PictureHeight, Cloth.Usual.Colour), tags);
    }
}
