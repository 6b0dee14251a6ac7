using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;

namespace EvenThimble.Core.Hoopings;

/// <summary>A hoop field where it lies on a job.</summary>
/// <param name="Field">The field.</param>
/// <param name="Centre">Where its middle lies, mm.</param>
public readonly record struct PlacedField(HoopField Field, Point Centre)
{
    /// <summary>That of a hooping.</summary>
    public static PlacedField Of(Hooping hooping, MachineCatalogue machines) => new(machines.FieldOf(hooping.Hoop), hooping.Centre);

    /// <summary>The rectangle about what can be sewn, mm.</summary>
    public Box Inner => new(Centre.X - (Field.InnerWidth / 2), Centre.Y - (Field.InnerHeight / 2), Centre.X + (Field.InnerWidth / 2), Centre.Y + (Field.InnerHeight / 2));

    /// <summary>Whether a needle point may be here.</summary>
    public bool Holds(Point p) => Field.Holds(p - Centre);

    /// <summary>Whether a rectangle lies in it.</summary>
    public bool Holds(Box box) => box.IsEmpty || Field.HoldsBox(new(box.MinX - Centre.X, box.MinY - Centre.Y, box.MaxX - Centre.X, box.MaxY - Centre.Y));
}
