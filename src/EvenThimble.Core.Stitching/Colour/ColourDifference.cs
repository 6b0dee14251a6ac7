namespace EvenThimble.Core.Colour;

/// <summary>How different two colours look.</summary>
public static class ColourDifference
{
    private const double Pow25To7 = 6103515625.0;

    // Below this nobody sees in which way two colours differ.
    private const double JustVisible = 1;

    // A second way in which colours differ is told when it is at least this part of the first.
    private const double Second = 0.5;

    /// <summary>
    /// CIEDE2000 with all weights 1, after G. Sharma, W. Wu, E. N. Dalal, "The CIEDE2000 color-difference formula: implementation
    /// notes, supplementary test data, and mathematical observations", Color Research and Application 30 (2005). About 1 is just visible.
    /// </summary>
    public static double Ciede2000(Lab one, Lab two)
    {
        var meanChroma = (one.Chroma + two.Chroma) / 2;
        var c7 = Math.Pow(meanChroma, 7);
        var g = 0.5 * (1 - Math.Sqrt(c7 / (c7 + Pow25To7)));
        var (a1, a2) = ((1 + g) * one.A, (1 + g) * two.A);
        var (c1, c2) = (Math.Sqrt((a1 * a1) + (one.B * one.B)), Math.Sqrt((a2 * a2) + (two.B * two.B)));
        var (h1, h2) = (HueOf(a1, one.B), HueOf(a2, two.B));

        var dL = two.L - one.L;
        var dC = c2 - c1;
        var grey = c1 * c2 == 0;
        var turn = h2 - h1;
        if (turn > 180) turn -= 360;
        else if (turn < -180) turn += 360;
        var dH = grey ? 0 : 2 * Math.Sqrt(c1 * c2) * Sin(turn / 2);

        var meanL = (one.L + two.L) / 2;
        var meanC = (c1 + c2) / 2;
        var sum = h1 + h2;
        var meanH = grey ? sum : Math.Abs(h1 - h2) <= 180 ? sum / 2 : sum < 360 ? (sum + 360) / 2 : (sum - 360) / 2;

        var t = 1 - (0.17 * Cos(meanH - 30)) + (0.24 * Cos(2 * meanH)) + (0.32 * Cos((3 * meanH) + 6)) - (0.20 * Cos((4 * meanH) - 63));
        var theta = 30 * Math.Exp(-Math.Pow((meanH - 275) / 25, 2));
        var mean7 = Math.Pow(meanC, 7);
        var rC = 2 * Math.Sqrt(mean7 / (mean7 + Pow25To7));
        var l50 = (meanL - 50) * (meanL - 50);
        var sL = 1 + (0.015 * l50 / Math.Sqrt(20 + l50));
        var sC = 1 + (0.045 * meanC);
        var sH = 1 + (0.015 * meanC * t);
        var rT = -Sin(2 * theta) * rC;
        return Math.Sqrt(Math.Pow(dL / sL, 2) + Math.Pow(dC / sC, 2) + Math.Pow(dH / sH, 2) + (rT * (dC / sC) * (dH / sH)));
    }

    /// <summary>The difference as one sewer would tell another.</summary>
    public static string InWords(double difference) => difference switch
    {
        < 1 => "looks the same",
        < 2.5 => "very close",
        < 5 => "close",
        < 10 => "a different shade",
        _ => "another colour",
    };

    /// <summary>How one colour looks beside a wanted one: how near, and what it is more or less of, such as "close, lighter and greener".</summary>
    public static string InWords(Lab wanted, Lab looks)
    {
        var difference = Ciede2000(wanted, looks);
        var near = InWords(difference);
        if (difference < JustVisible) return near;
        var ways = new List<(double Much, string Word)> { (Math.Abs(looks.L - wanted.L), looks.L > wanted.L ? "lighter" : "darker") };
        var chroma = looks.Chroma - wanted.Chroma;
        ways.Add((Math.Abs(chroma), chroma > 0 ? "brighter" : "duller"));

        // Where one of both is grey, or nearly, its hue says nothing; else what remains beside chroma is a turn of hue.
        var (da, db) = (looks.A - wanted.A, looks.B - wanted.B);
        var hue = Math.Sqrt(Math.Max(0, (da * da) + (db * db) - (chroma * chroma)));
        ways.Add((hue, Math.Abs(da) > Math.Abs(db) ? (da > 0 ? "redder" : "greener") : db > 0 ? "yellower" : "bluer"));
        var told = ways.OrderByDescending(w => w.Much).ToList();
        return $"{near}, {string.Join(" and ", told.Take(2).Where((w, i) => i == 0 || w.Much > Second * told[0].Much).Select(w => w.Word))}";
    }

    private static double HueOf(double a, double b)
    {
        if (a == 0 && b == 0) return 0;
        var degrees = Math.Atan2(b, a) * 180 / Math.PI;
        return degrees < 0 ? degrees + 360 : degrees;
    }

    private static double Sin(double degrees) => Math.Sin(degrees * Math.PI / 180);

    private static double Cos(double degrees) => Math.Cos(degrees * Math.PI / 180);
}
