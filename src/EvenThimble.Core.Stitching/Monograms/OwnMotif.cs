using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Monograms;

/// <summary>A line or shape that somebody drew, of which a border is made: again and again along the line of the border, its upper side outwards.</summary>
/// <param name="Name">As it was called.</param>
/// <param name="Shape">What was drawn, mm.</param>
/// <param name="Settings">How it is stitched.</param>
public sealed record OwnMotif(string Name, DrawnShape Shape, StitchSettings Settings)
{
    /// <summary>The least and the most that it may be wide, and the most that it may be high, mm.</summary>
    public static readonly (double Least, double Most) Widths = (1, 150);

    /// <summary>No border has more points than this.</summary>
    public const int MostPoints = 60_000;

    private const int MostOfOne = 4_000;
    private const double LeastGap = 0.8;
    private const double GapOfWidth = 0.12;

    // How much higher one end of a line may lie than the other so that it goes on into the next: a part of its width, and mm.
    private const double LevelOfWidth = 0.03;
    private const double LevelMm = 0.3;

    /// <summary>The rectangle about it, mm.</summary>
    public Box Bounds => Shape.Bounds;

    /// <summary>It is one line from its left end to its right, both at one height: such lines go on into each other.</summary>
    public bool GoesOn => Shape.Paths is [{ Closed: false } line] && line.Flattened() is [var first, .., var last]
        && Math.Abs(first.Y - last.Y) <= Math.Max(LevelMm, LevelOfWidth * Bounds.Width)
        && Math.Abs(Math.Abs(last.X - first.X) - Bounds.Width) <= LevelMm;

    /// <summary>From one to the next along the border, mm.</summary>
    public double PitchMm => GoesOn ? Bounds.Width : Bounds.Width + Math.Max(LeastGap, GapOfWidth * Bounds.Width);

    /// <summary>Its lines about the middle of its rectangle, or from its left end where it goes on into the next; upwards is outwards.</summary>
    internal IReadOnlyList<(List<Point> Points, bool Closed)> Lines
    {
        get
        {
            var (goesOn, box) = (GoesOn, Bounds);
            var lines = Shape.Paths.Select(p => (Points: p.Flattened(), p.Closed)).ToList();
            if (!goesOn) return [.. lines.Select(l => (l.Points.ConvertAll(p => p - box.Middle), l.Closed))];
            var line = lines[0].Points;
            if (line[0].X > line[^1].X) line.Reverse();
            var level = (line[0].Y + line[^1].Y) / 2;
            return [(line.ConvertAll(p => new Point((p.X - line[0].X) / (line[^1].X - line[0].X), p.Y - level)), false)];
        }
    }

    /// <summary>Refuses what no border can be made of.</summary>
    /// <exception cref="EditRefusedException">Why, in a sentence.</exception>
    public void Check()
    {
        var box = Bounds;
        if (Name != Titles.Clean(Name)) throw new EditRefusedException("What a border is made of has a name that cannot be.");
        if (!(box.Width >= Widths.Least && box.Width <= Widths.Most && box.Height <= Widths.Most))
            throw new EditRefusedException($"What a border is made of is from {Widths.Least:0} to {Widths.Most:0} mm wide and at most {Widths.Most:0} mm high; “{Name}” is {LengthText.Decimals(box.Width, 1)} × {LengthText.Decimals(box.Height, 1)} mm.");
        if (Shape.Paths.Sum(p => p.Flattened().Count) > MostOfOne) throw new EditRefusedException($"“{Name}” has too many points to make a border of it. Draw something simpler.");
    }
}
