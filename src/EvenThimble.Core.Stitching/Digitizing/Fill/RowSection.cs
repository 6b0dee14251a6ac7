namespace EvenThimble.Core.Digitizing.Fill;

/// <summary>Rows of an area that lie one over another without parting or joining.</summary>
internal sealed class RowSection(int firstRow)
{
    public int FirstRow { get; } = firstRow;

    public List<Span> Spans { get; } = [];

    public List<Door> Doors { get; } = [];

    public int LastRow => FirstRow + Spans.Count - 1;

    public Span At(int row) => Spans[row - FirstRow];

    public bool IsNearerToTop(int row) => row - FirstRow <= LastRow - row;
}

/// <summary>Part of a row that lies inside the area, from left to right, mm, and the room to its neighbours in the row.</summary>
internal readonly record struct Span(double From, double To, double RoomBefore = double.PositiveInfinity, double RoomAfter = double.PositiveInfinity)
{
    public double Width => To - From;

    /// <summary>The nearest place of the span that keeps off its ends where there is room.</summary>
    public double Within(double x)
    {
        var margin = Math.Min(RowSections.WayMargin, Width * 0.3);
        return Math.Clamp(x, From + margin, To - margin);
    }
}

/// <summary>Where one section can be left for another: rows and places on either side, and how far the door is open, where it is more than those places.</summary>
internal readonly record struct Door(int To, int Row, double X, int RowThere, double XThere, Span? Open = null)
{
    /// <summary>The same door, gone through as near to a place as it is open.</summary>
    public Door At(double x) => Open is { } open ? this with { X = open.Within(x), XThere = open.Within(x) } : this;
}
