using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>What was changed about the throws of a run, so that any of it can be undone.</summary>
internal sealed class ThrowChanges
{
    private readonly List<Change> _made = [];

    /// <summary>Whether there is anything to be undone.</summary>
    public bool Any => _made.Count > 0;

    /// <summary>The part of the cloth that holds all that was changed, mm.</summary>
    public Box Box => _made.Aggregate(Box.Empty, (all, c) => all.With(c.Box));

    /// <summary>Adds a change.</summary>
    /// <param name="first">The first needle point that it has to do with, by its number in the run.</param>
    /// <param name="last">The last one.</param>
    /// <param name="box">The part of the cloth that holds the throws, mm.</param>
    /// <param name="undo">Makes all as it was before, where nothing that came after it has to do with the same needle points.</param>
    public void Add(int first, int last, Box box, Action undo) => _made.Add(new(first, last, box, undo));

    /// <summary>Keeps all: there is nothing to be undone any more.</summary>
    public void Keep() => _made.Clear();

    /// <summary>Undoes the changes in some parts of the cloth, and with each those that came after it and have to do with the same needle points.</summary>
    /// <param name="isMeant">Whether what lies in a part is undone.</param>
    /// <returns>The parts of the cloth of those that were.</returns>
    public List<Box> Undo(Predicate<Box> isMeant)
    {
        var (undone, kept) = (new List<Change>(), new List<Change>());
        foreach (var change in _made) (isMeant(change.Box) || undone.Exists(change.Shares) ? undone : kept).Add(change);
        for (var i = undone.Count - 1; i >= 0; i--) undone[i].Undo();
        _made.Clear();
        _made.AddRange(kept);
        return undone.ConvertAll(c => c.Box);
    }

    private sealed record Change(int First, int Last, Box Box, Action Undo)
    {
        public bool Shares(Change other) => First <= other.Last && other.First <= Last;
    }
}
