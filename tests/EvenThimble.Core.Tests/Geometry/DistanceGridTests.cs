using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Tests.Geometry;

/// <summary>Distances between squares are those that looking at all of them gives.</summary>
public sealed class DistanceGridTests
{
    [Theory]
    [InlineData(1, 0.5)]
    [InlineData(2, 0.02)]
    [InlineData(3, 0.003)]
    [InlineData(4, 0)]
    public void Distances_are_those_to_the_nearest_square_of_all(int seed, double part)
    {
        var (grid, marked) = Sprinkled(seed, part);
        var far = DistanceGrid.To(grid, c => c == 1);
        for (var i = 0; i < far.Length; i++)
        {
            var nearest = marked.Count == 0 ? double.PositiveInfinity : marked.Min(m => grid.Middle(m).DistanceTo(grid.Middle(i)));
            if (marked.Count == 0) far[i].ShouldBeGreaterThan(1e5);
            else far[i].ShouldBe(nearest, 1e-9);
        }
    }

    [Theory]
    [InlineData(1, 0.2)]
    [InlineData(2, 0.02)]
    [InlineData(3, 0.003)]
    [InlineData(4, 0)]
    public void What_lies_within_a_distance_is_what_the_distances_tell(int seed, double part)
    {
        var (grid, _) = Sprinkled(seed, part);
        var far = DistanceGrid.To(grid, c => c == 1);
        foreach (var distance in new[] { 0, 0.13, 0.331, 1.07, 2.9, 400 })
        {
            var near = DistanceGrid.IsWithin(grid, c => c == 1, distance);
            for (var i = 0; i < near.Length; i++) near[i].ShouldBe(far[i] <= distance, $"square {i}, {far[i]} mm off, within {distance}");
        }
    }

    private static (CellGrid Grid, List<int> Marked) Sprinkled(int seed, double part)
    {
        var (random, grid) = (new Random(seed), new CellGrid(new(-3, 2, 6.1, 7.3), 0.13));
        var marked = Enumerable.Range(0, grid.Cells.Length).Where(_ => random.NextDouble() < part).ToList();
        foreach (var m in marked) grid.Cells[m] = 1;
        return (grid, marked);
    }
}
