namespace EvenThimble.Core.Geometry;

/// <summary>Angles in degrees, clockwise on the screen.</summary>
public static class Turn
{
    /// <summary>The same direction as an angle from 0 up to, not including, 360 degrees.</summary>
    public static double Normalised(double degrees)
    {
        var turned = degrees % 360;
        if (turned < 0) turned += 360;
        return turned >= 360 ? 0 : turned;
    }

    /// <summary>How far one direction is turned to become another, degrees from -180 to 180.</summary>
    public static double Between(Point from, Point to) => Math.Atan2(from.Cross(to), from.Dot(to)) * 180 / Math.PI;

    /// <summary>Sine and cosine; exact for quarter turns, so that four of them bring every stitch back to the same number.</summary>
    public static (double Sin, double Cos) SinCos(double degrees) => Normalised(degrees) switch
    {
        0 => (0, 1),
        90 => (1, 0),
        180 => (0, -1),
        270 => (-1, 0),
        var other => Math.SinCos(other * Math.PI / 180),
    };
}
