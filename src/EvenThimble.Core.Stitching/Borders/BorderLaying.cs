using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Borders;

/// <summary>On which sides a border lies.</summary>
public enum BorderSides : byte
{
    /// <summary>All round, in one line.</summary>
    AllRound,

    /// <summary>Above, and mirrored below.</summary>
    AboveAndBelow,

    /// <summary>Left, and mirrored right.</summary>
    LeftAndRight,

    /// <summary>Above, below, left and right, each a line of its own.</summary>
    FourSides,
}

/// <summary>The words for sides of borders.</summary>
public static class BorderSideWords
{
    private static readonly string[] Words = ["all round", "above and below", "left and right", "four sides"];

    /// <summary>The sides in words.</summary>
    public static string InWords(this BorderSides sides) => Words[(int)sides];
}

/// <summary>What is wanted of a border.</summary>
/// <param name="Frame">What it is made of.</param>
public sealed record BorderWish(MonogramFrame Frame)
{
    /// <summary>The least and the most between it and what it goes around, mm.</summary>
    public static readonly (double Least, double Most) Distances = (0, 200);

    /// <summary>Its form, where it goes all round.</summary>
    public FrameForm Form { get; init; } = FrameForm.Rectangle;

    /// <summary>On which sides it lies.</summary>
    public BorderSides Sides { get; init; }

    /// <summary>Between it and what it goes around, where they are nearest, mm.</summary>
    public double DistanceMm { get; init; } = 5;

    /// <summary>Its corners are sharp; else round.</summary>
    public bool SharpCorners { get; init; }

    /// <summary>Refuses what cannot be wanted.</summary>
    /// <exception cref="EditRefusedException">With the range, in a sentence.</exception>
    public void Check()
    {
        if (!(DistanceMm >= Distances.Least && DistanceMm <= Distances.Most))
            throw new EditRefusedException($"A border can lie from {Distances.Least:0} to {Distances.Most:0} mm around something; {(DistanceMm < 0 ? "nearer, it would lie over it" : $"{LengthText.Decimals(DistanceMm, 1)} mm is too far")}.");
    }
}

/// <summary>Lays a border around something: a frame all round in one of its forms, or along some of the sides of the rectangle about it, those across from each other mirrored.</summary>
public static class BorderLaying
{
    private const double CloseEnough = 0.01;
    private const int MostTries = 12;
    private const double LeastSide = 4;

    /// <summary>The pieces of a border.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="outline">The outline of what it goes around, convex, mm.</param>
    /// <exception cref="EditRefusedException">It cannot be laid; a sentence.</exception>
    public static IReadOnlyList<FramePiece> Of(BorderWish wish, IReadOnlyList<Point> outline)
    {
        wish.Check();
        var box = Box.Around(outline);
        if (outline.Count < 3 || Math.Max(box.Width, box.Height) < LeastSide) throw new EditRefusedException("What is chosen is too small for a border around it.");
        Point[] corners = [new(box.MinX, box.MinY), new(box.MaxX, box.MinY), new(box.MaxX, box.MaxY), new(box.MinX, box.MaxY)];
        return wish.Sides switch
        {
            BorderSides.AboveAndBelow => Mirrored(Side(wish, corners[0], corners[1]), p => new(p.X, box.MinY + box.MaxY - p.Y), "above", "below"),
            BorderSides.LeftAndRight => Mirrored(Side(wish, corners[3], corners[0]), p => new(box.MinX + box.MaxX - p.X, p.Y), "left", "right"),
            BorderSides.FourSides =>
            [
                .. Mirrored(Side(wish, corners[0], corners[1]), p => new(p.X, box.MinY + box.MaxY - p.Y), "above", "below"),
                .. Mirrored(Side(wish, corners[3], corners[0]), p => new(box.MinX + box.MaxX - p.X, p.Y), "left", "right"),
            ],
            _ when wish.Form == FrameForm.Rectangle => new FrameLaying(wish.Frame, FrameForm.AsLetters, wish.DistanceMm) { SharpCorners = wish.SharpCorners }.Of(corners),
            _ => new FrameLaying(wish.Frame, wish.Form, wish.DistanceMm) { SharpCorners = wish.SharpCorners }.Of([.. outline]),
        };
    }

    /// <summary>A border along one side, outside being on the left from the first corner to the second.</summary>
    private static IReadOnlyList<FramePiece> Side(BorderWish wish, Point from, Point to)
    {
        var outward = (to - from).Unit().Normal();
        if (from.DistanceTo(to) < LeastSide) throw new EditRefusedException("That side is too short for a border along it. Choose others, or all round.");
        var distance = wish.DistanceMm + 1;
        for (var i = 0; ; i++)
        {
            var pieces = wish.Frame.AlongOpen(Polylines.Divided([from + (outward * distance), to + (outward * distance)], Math.Max(2, (int)(from.DistanceTo(to) / 0.4))));
            var off = wish.DistanceMm - pieces.SelectMany(p => p.Ink).Min(p => (p - from).Dot(outward));
            if (Math.Abs(off) < CloseEnough || i == MostTries) return pieces;
            distance += off;
        }
    }

    private static IReadOnlyList<FramePiece> Mirrored(IReadOnlyList<FramePiece> side, Func<Point, Point> mirror, string here, string there) =>
    [
        .. side.Select(p => p with { Name = $"{p.Name}, {here}" }),
        .. side.Select(p => new FramePiece($"{p.Name}, {there}", p.Shape.Moved(mirror), p.Settings with { MotifTurn = p.Settings.MotifTurn switch { MotifTurn.Alike => MotifTurn.Mirrored, MotifTurn.Mirrored => MotifTurn.Alike, var turn => turn } })),
    ];
}
