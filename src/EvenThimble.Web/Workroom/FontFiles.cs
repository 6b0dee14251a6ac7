using EvenThimble.Core.Text;

namespace EvenThimble.Web.Workroom;

/// <summary>Pictures of lettering fonts in thread.</summary>
public static class FontFiles
{
    /// <summary>Addresses below <c>/letters</c>.</summary>
    public static void MapFontFiles(this IEndpointRouteBuilder routes)
    {
        routes.MapGet("/letters/word.png", (string font, string text, LetterFonts fonts, HttpResponse response) => Picture(response, () => fonts.PictureOf(font, text)));
        routes.MapGet("/letters/pair.png", (string font, string left, string right, double share, LetterFonts fonts, HttpResponse response) => Picture(response, () => fonts.PictureOf(font, left, right, share)));
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
