using System.Globalization;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Machines;

/// <summary>What a hoop of the user's own must be. Each refusal is one sentence.</summary>
public static class HoopRules
{
    private const double Smallest = 20;
    private const double Largest = 1_500;
    private const int MostPositions = 6;

    // Two halves of a design are joined where both places can sew.
    private const double LeastOverlap = 10;

    /// <summary>The hoop with its name made clean.</summary>
    /// <exception cref="EditRefusedException">There can be no such hoop; the message says why.</exception>
    public static HoopField Checked(HoopField hoop)
    {
        var name = Titles.Clean(hoop.Name);
        Must(name.Length > 0, "A hoop needs a name of at least one letter.");
        Must(Between(hoop.Width, Smallest, Largest) && Between(hoop.Height, Smallest, Largest), Text($"A field is {Smallest:0} to {Largest:0} mm wide and high; {hoop.Width:0.##} × {hoop.Height:0.##} is not possible."));
        Must(Between(hoop.Margin, 0, Math.Min(hoop.Width, hoop.Height) / 4), Text($"What stays free inside the edge is 0 to {Math.Min(hoop.Width, hoop.Height) / 4:0.#} mm for a field of that size."));
        Must(Between(hoop.CornerRadius, 0, Math.Min(hoop.Width, hoop.Height) / 2), Text($"Round corners have a radius of 0 to {Math.Min(hoop.Width, hoop.Height) / 2:0.#} mm for a field of that size."));
        Must(Enum.IsDefined(hoop.Shape), "A field is a rectangle, a rectangle with round corners, or an ellipse.");
        Must(hoop.Positions is >= 1 and <= MostPositions, $"A hoop has 1 to {MostPositions} positions.");
        if (hoop.Positions == 1) return hoop with { Name = name, PositionStep = 0, PositionsAcross = false };
        var along = hoop.PositionsAcross ? hoop.InnerWidth : hoop.InnerHeight;
        Must(Between(hoop.PositionStep, 1, Largest), "Between two positions lies a millimetre at least.");
        Must(hoop.PositionStep <= along - LeastOverlap, Text($"The positions do not overlap enough: each sews {along:0.#} mm, and the next begins {hoop.PositionStep:0.#} mm farther on. They have to share {LeastOverlap:0} mm, so at most {along - LeastOverlap:0.#} mm apart."));
        return hoop with { Name = name };
    }

    private static bool Between(double value, double least, double most) => value >= least && value <= most;

    private static void Must(bool so, string otherwise)
    {
        if (!so) throw new EditRefusedException(otherwise);
    }

    private static string Text(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
