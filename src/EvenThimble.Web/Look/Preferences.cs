using EvenThimble.Core.Text;

namespace EvenThimble.Web.Look;

/// <summary>What a person chose for the look of the screens, kept in cookies.</summary>
/// <param name="Unit">Lengths in mm or inches.</param>
/// <param name="Dark">The dark theme.</param>
public sealed record Preferences(LengthUnit Unit, bool Dark)
{
    /// <summary>The choices of a request.</summary>
    public static Preferences Of(HttpContext context) => new(
        context.Request.Cookies["unit"] == "in" ? LengthUnit.Inch : LengthUnit.Millimetre,
        context.Request.Cookies["theme"] == "dark");
}
