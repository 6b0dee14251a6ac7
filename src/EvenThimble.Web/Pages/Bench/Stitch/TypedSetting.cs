using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Text;

namespace EvenThimble.Web.Pages.Bench;

/// <summary>Settings of stitching as they are typed or chosen on the card. An empty text goes back to what is usual.</summary>
public static class TypedSetting
{
    private static readonly Dictionary<string, SettingRange> Numbers = new()
    {
        ["spacing"] = SettingRange.Spacing,
        ["angle"] = SettingRange.Angle,
        ["stitch"] = SettingRange.StitchLength,
        ["width"] = SettingRange.Width,
        ["motif-length"] = SettingRange.MotifLength,
        ["tile-scale"] = SettingRange.TileScale,
        ["tile-angle"] = SettingRange.TileAngle,
        ["compensation"] = SettingRange.Compensation,
    };

    /// <summary>The change that a field asks for.</summary>
    /// <exception cref="EditRefusedException">The text is none that this setting can have; the message says what it can.</exception>
    public static SettingChange Of(string? field, string? text, LengthUnit unit)
    {
        var (name, typed) = (field ?? string.Empty, text?.Trim() ?? string.Empty);
        var (words, to) = (name.Replace('-', ' '), typed.Length == 0 ? null : typed);
        if (Numbers.TryGetValue(name, out var range))
        {
            var value = to is null ? (double?)null : Number(range, to, unit);
            return new(words, to, s => range.With(s, value));
        }

        return name switch
        {
            "way" when StitchWays.TryParse(typed, out var way) => SettingChange.OfWay(way),
            "motif" when to is null || Motifs.Find(to) is not null => new(words, to, s => s with { Motif = to }),
            "tile" when to is null || Tiles.Find(to) is not null => new(words, to, s => s with { Tile = to }),
            "motif-turn" when Enum.TryParse<MotifTurn>(typed, true, out var turn) && Enum.IsDefined(turn) => new(words, typed, s => s with { MotifTurn = turn }),
            "underlay" => Underlaid(words, to),
            _ => throw new EditRefusedException("That is no setting of these stitches."),
        };
    }

    private static double Number(SettingRange range, string typed, LengthUnit unit)
    {
        double value;
        var understood = range.IsLength ? LengthText.TryParse(typed, unit, out value) : double.TryParse(typed.TrimEnd('°').Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out value);
        return understood && range.Holds(value) ? value : throw range.Refused(typed);
    }

    private static SettingChange Underlaid(string words, string? to)
    {
        var layers = Layers(to);
        return new(words, to, s => s with { Underlay = layers });
    }

    private static UnderlayLayers? Layers(string? typed)
    {
        if (typed is null) return null;
        var layers = typed.Split('+').Select(l => Enum.TryParse<Underlay>(l, true, out var layer) && Enum.IsDefined(layer) ? layer : throw new EditRefusedException("That is no underlay.")).ToList();
        return new(layers[0], layers.ElementAtOrDefault(1));
    }
}
