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
    public ImportResult Import(string fileName, byte[] bytes, string tags = "")
    {
        var (kind, file) = StitchFormats.Read(bytes, fileName);
        var picture = ThreadPainter.Picture(file, PictureWidth, PictureHeight, Cloth.Usual.Colour);
        return designs.Import(file, kind, fileName.Split('/', '\\')[^1], bytes, picture, tags);
    }
}
