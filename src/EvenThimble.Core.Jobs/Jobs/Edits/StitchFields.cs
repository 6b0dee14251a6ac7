using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Jobs;

/// <summary>The settings of stitching as they are typed: each has a name, a range and a sentence for what cannot be. An empty text goes back to what is usual.</summary>
public static class StitchFields
{
    /// <summary>Closest spacing, mm.</summary>
    public const double LeastSpacing = 0.2;

    /// <summary>Widest spacing, mm.</summary>
    public const double MostSpacing = 5;

    private static readonly Dictionary<string, (string Says, double Least, double Most, bool Length, Func<StitchSettings, double?, StitchSettings> Set)> Numbers = new()
    {
        ["spacing"] = ("spacing", LeastSpacing, MostSpacing, true, (s, v) => s with { Spacing = v }),
        ["angle"] = ("angle", -360, 360, false, (s, v) => s with { Angle = v is { } a ? Turn.Normalised(a) : null }),
        ["stitch"] = ("stitch length", 0.8, 7, true, (s, v) => s with { StitchLength = v }),
        ["width"] = ("width", 0.8, 12, true, (s, v) => s with { Width = v }),
        ["motif-length"] = ("length of a motif", 2, 40, true, (s, v) => s with { MotifLength = v }),
        ["tile-scale"] = ("size of the pattern", 0.4, 4, false, (s, v) => s with { TileScale = v }),
        ["tile-angle"] = ("angle of the pattern", -360, 360, false, (s, v) => s with { TileAngle = v is { } a ? Turn.Normalised(a) : null }),
        ["compensation"] = ("pull compensation", 0, 1, true, (s, v) => s with { Compensation = v }),
    };

    /// <summary>The settings with one of them changed.</summary>
    /// <exception cref="EditRefusedException">The text is none that this setting can have; the message says what it can.</exception>
    public static StitchSettings Set(StitchSettings settings, string field, string? text, LengthUnit unit = LengthUnit.Millimetre)
    {
        var typed = text?.Trim() ?? string.Empty;
        if (Numbers.TryGetValue(field, out var number))
        {
            if (typed.Length == 0) return number.Set(settings, null);
            double value;
            var understood = number.Length ? LengthText.TryParse(typed, unit, out value) : double.TryParse(typed.TrimEnd('°').Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out value);
            if (!understood || !double.IsFinite(value) || value < number.Least - 1e-9 || value > number.Most + 1e-9)
                throw new EditRefusedException($"The {number.Says} can be from {Number(number.Least)} to {Number(number.Most)}{(number.Length ? " mm" : string.Empty)}; “{typed}” is not. Nothing was changed.");
            return number.Set(settings, value);
        }

        return field switch
        {
            "way" when StitchWays.TryParse(typed, out var way) => settings with { Way = way },
            "motif" when typed.Length == 0 || Motifs.Find(typed) is not null => settings with { Motif = typed.Length == 0 ? null : typed },
            "tile" when typed.Length == 0 || Tiles.Find(typed) is not null => settings with { Tile = typed.Length == 0 ? null : typed },
            "motif-turn" when Enum.TryParse<MotifTurn>(typed, true, out var turn) && Enum.IsDefined(turn) => settings with { MotifTurn = turn },
            "underlay" => settings with { Underlay = Layers(typed) },
            "start" => settings with { Start = Place(typed) },
            "end" => settings with { End = Place(typed) },
            _ => throw new EditRefusedException("That is no setting of these stitches."),
        };
    }

    private static UnderlayLayers? Layers(string typed)
    {
        if (typed.Length == 0) return null;
        var layers = typed.Split('+').Select(l => Enum.TryParse<Underlay>(l, true, out var layer) && Enum.IsDefined(layer) ? layer : throw new EditRefusedException("That is no underlay.")).ToList();
        return new(layers[0], layers.ElementAtOrDefault(1));
    }

    private static Point? Place(string typed)
    {
        if (typed.Length == 0) return null;
        var xy = typed.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (xy.Length == 2 && double.TryParse(xy[0], NumberStyles.Float, CultureInfo.InvariantCulture, out var x) && double.TryParse(xy[1], NumberStyles.Float, CultureInfo.InvariantCulture, out var y)
            && Math.Abs(x) <= ShiftParts.FarthestMm && Math.Abs(y) <= ShiftParts.FarthestMm)
            return new(x, y);
        throw new EditRefusedException("That is no place on the cloth.");
    }

    private static string Number(double v) => v.ToString("0.##", CultureInfo.InvariantCulture);
}
