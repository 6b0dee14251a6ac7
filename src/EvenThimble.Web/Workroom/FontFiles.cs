using EvenThimble.Core.Text;

namespace EvenThimble.Web.Workroom;

/// <summary>Pictures of lettering fonts in thread.</summary>
public static class FontFiles
{
    private const int FontHeight = 56;
    private const int WordHeight = 112;

    /// <summary>Addresses below <c>/letters</c>.</summary>
    public static void MapFontFiles(this IEndpointRouteBuilder routes)
    {
        routes.MapGet("/letters/word.png", (string font, string text, LetterFonts fonts, LetterSets sets, HttpResponse response) =>
            Picture(response, () => sets.All.FirstOrDefault(s => s.Name == font) is { } set ? sets.PictureOf(set.Id, text, FontHeight) : fonts.PictureOf(font, text)));
        routes.MapGet("/letters/monogram.png", (string? letters, string layout, string? frame, string font, MonogramLooks looks, HttpResponse response) => Picture(response, () => looks.PictureOf(letters, layout, frame, font)));
        routes.MapGet("/letters/border.png", (string frame, MonogramLooks looks, HttpResponse response) => Picture(response, () => looks.BorderOf(frame)));
        routes.MapGet("/letters/pair.png", (string font, string left, string right, double share, LetterFonts fonts, HttpResponse response) => Picture(response, () => fonts.PictureOf(font, left, right, share)));
    }

    /// <summary>Pictures of letter sets below <c>/letters/sets</c>, and the sets as files.</summary>
    public static void MapLetterSetFiles(this IEndpointRouteBuilder routes)
    {
        routes.MapGet("/letters/sets/{id:long}/word.png", (long id, string text, LetterSets sets, HttpResponse response) => Picture(response, () => sets.PictureOf(id, text, WordHeight)));
        routes.MapGet("/letters/sets/{id:long}/letter.png", (long id, string path, double scale, LetterSets sets, HttpResponse response) => Picture(response, () => sets.LetterPicture(id, path, scale)));
        routes.MapGet("/letters/sets/{id:long}/file", (long id, LetterSets sets) => sets.File(id) is { } bytes
            ? Results.File(bytes, "application/zip", Titles.FileName(sets.All.First(s => s.Id == id).Name) + Core.Files.Letters.LetterSetArchive.Extension) : Results.NotFound());
    }

    private static IResult Picture(HttpResponse response, Func<byte[]?> draw)
    {
        try
        {
            if (draw() is not { } picture) return Results.NotFound();

            // The same words in the same font look the same; a font of one's own may be exchanged.
            response.Headers.CacheControl = "private, max-age=600";
            return Results.Bytes(picture, "image/png");
        }
        catch (RefusedException)
        {
            return Results.NotFound();
        }
    }
}
