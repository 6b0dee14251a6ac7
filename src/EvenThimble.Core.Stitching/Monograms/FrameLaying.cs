using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Monograms;

/// <summary>Lays a frame around an outline at a distance: where its line has to lie for that is found by measuring. One may lay it around outlines of several sizes, each nearly right from the start.</summary>
/// <param name="frame">The frame.</param>
/// <param name="form">Its form.</param>
/// <param name="gapMm">Between the outline and what is nearest to it of the frame, mm.</param>
public sealed class FrameLaying(MonogramFrame frame, FrameForm form, double gapMm)
{
    private const double CloseEnough = 0.01;
    private const int MostTries = 12;

    // The narrowest form beside the widest, where it is in proportion to what it goes around.
    private const double Slimmest = 0.4;
    private const double RoundedBy = 0.12;

    // How far from the outline the line of the frame lies: what was found for one size is nearly right for the next, mm.
    private double _distance = gapMm + 1;

    /// <summary>How many motifs it has.</summary>
    public MotifCounts? Counts { get; init; }

    /// <summary>Its corners are sharp where the outline's are.</summary>
    public bool SharpCorners { get; init; }

    /// <summary>The frame around an outline, closed, mm.</summary>
    /// <exception cref="EditRefusedException">There can be none at that distance.</exception>
    public IReadOnlyList<FramePiece> Of(Point[] outline)
    {
        var (shape, about) = (FormAbout(outline), new DistanceTo(outline));
        for (var i = 0; ; i++)
        {
            var ring = RingAround.Of(shape, _distance, SharpCorners);
            if (ring.Count == 0) throw new EditRefusedException("At that distance it would lie within what it goes around. Make the distance larger.");
            var pieces = frame.Along(ring, Counts);

            // A motif that reaches into the letters tells no distance; the line goes out by as much as it reaches in.
            var nearest = about.Nearest(pieces.SelectMany(p => p.Ink));
            var off = gapMm - nearest;
            if (Math.Abs(off) < CloseEnough || i == MostTries) return pieces;
            _distance += nearest > 0 || off > 1 ? off : 1;
        }
    }

    /// <summary>The outline that the frame follows: that of the letters, or the smallest of another form that holds them.</summary>
    private IReadOnlyList<Point> FormAbout(Point[] outline)
    {
        if (form == FrameForm.AsLetters) return outline;
        var box = Box.Around(outline);
        var (across, down) = (Math.Max(box.Width, Slimmest * box.Height), Math.Max(box.Height, Slimmest * box.Width));
        var unit = form switch
        {
            FrameForm.Circle => [.. MonogramGround.Circle.Outline],
            FrameForm.Oval => [.. MonogramGround.Circle.Outline.Select(p => new Point(p.X * across / Math.Max(across, down), p.Y * down / Math.Max(across, down)))],
            FrameForm.Rectangle => [.. RingAround.Begun(BasicShapes.Rectangle(across, down, RoundedBy * Math.Min(across, down)).Paths[0].Flattened()).Select(p => p / Math.Max(across, down))],
            FrameForm.Diamond => [.. MonogramGround.Diamond.Outline],
            _ => (Point[])[.. MonogramGround.Shield.Outline],
        };

        // The smallest that holds every point of the letters, about their middle.
        var (least, most) = (0.0, 4 * Math.Max(box.Width, box.Height));
        for (var i = 0; i < 40; i++)
        {
            var times = (least + most) / 2;
            if (Holds(times)) most = times;
            else least = times;
        }

        return [.. unit.Select(p => (p * most) + box.Middle)];

        bool Holds(double times)
        {
            Point[] ring = [.. unit.Select(p => (p * times) + box.Middle)];
            return outline.All(p => DistanceTo.Winds(ring, p));
        }
    }
}
