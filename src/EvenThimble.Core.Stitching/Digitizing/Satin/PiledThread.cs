using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Where some stitches lie on others: what shows in each cell when some are gone.</summary>
internal sealed class PiledThread
{
    // A cell that none of the stitches covers has no pile; one that is to have one has not been begun.
    private const int None = -1;
    private const int Unbegun = -2;

    // Of each cell the uppermost layer, and of each layer its stitch and the layer below.
    private readonly int[] _uppermost;
    private readonly List<(int Stitch, int Below)> _layers = [];

    /// <summary>Piles up all that lies in the cells of some stitches.</summary>
    /// <param name="thread">All stitches, and their cells.</param>
    /// <param name="leaving">The numbers of those that may be gone.</param>
    public PiledThread(ShowingThread thread, IReadOnlyCollection<int> leaving)
    {
        _uppermost = new int[thread.Cells];
        Array.Fill(_uppermost, None);
        foreach (var stitch in leaving)
            foreach (var (row, first, last) in thread.Under(stitch))
                Array.Fill(_uppermost, Unbegun, thread.Cell(row, first), last - first + 1);
        for (var stitch = 1; stitch <= thread.Count; stitch++)
        {
            foreach (var (row, first, last) in thread.Under(stitch))
            {
                foreach (ref var layer in _uppermost.AsSpan(thread.Cell(row, first), last - first + 1))
                {
                    if (layer == None) continue;
                    _layers.Add((stitch, layer));
                    layer = _layers.Count - 1;
                }
            }
        }
    }

    /// <summary>The uppermost stitch in a cell of one that may be gone, without those from one number to another; 0: there is none.</summary>
    public int Without(int first, int last, int cell)
    {
        for (var layer = _uppermost[cell]; layer >= 0; layer = _layers[layer].Below)
            if (_layers[layer].Stitch is var stitch && (stitch < first || stitch > last))
                return stitch;
        return 0;
    }
}
