using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Stitches;

/// <summary>Collects records one after another and makes a blob of them.</summary>
public sealed class StitchBuilder(int capacity = 256)
{
    private readonly List<double> _x = new(capacity);
    private readonly List<double> _y = new(capacity);
    private readonly List<StitchKind> _kinds = new(capacity);
    private readonly ImmutableSortedDictionary<int, string>.Builder _messages = ImmutableSortedDictionary.CreateBuilder<int, string>();

    /// <summary>Number of records so far.</summary>
    public int Count => _kinds.Count;

    /// <summary>Where the needle stands, mm; the origin before the first record.</summary>
    public Point Needle => Count == 0 ? Point.Zero : new(_x[^1], _y[^1]);

    /// <summary>The kind of the last record, or null before the first.</summary>
    public StitchKind? Last => Count == 0 ? null : _kinds[^1];

    /// <summary>Adds a needle point.</summary>
    public void Stitch(Point at) => Add(StitchKind.Stitch, at);

    /// <summary>Adds a move without the needle going down.</summary>
    public void Jump(Point to) => Add(StitchKind.Jump, to);

    /// <summary>Cuts the thread where the needle stands.</summary>
    public void Trim() => Add(StitchKind.Trim, Needle);

    /// <summary>Lets the machine wait, with a message for the operator or none.</summary>
    public void Stop(string message)
    {
        if (message.Length > 0) _messages[Count] = message;
        Add(StitchKind.Stop, Needle);
    }

    /// <summary>Adds a record of any kind at a place.</summary>
    /// <exception cref="Text.TooMuchWorkException">There are more than any plan may have.</exception>
    public void Add(StitchKind kind, Point at)
    {
        if (Count >= WorkBudget.MostRecords) WorkBudget.CheckRecords(Count + 1);
        _x.Add(at.X);
        _y.Add(at.Y);
        _kinds.Add(kind);
    }

    /// <summary>Adds some records of others, from the first to before the last, with their messages.</summary>
    public void Append(StitchBlob records, int first, int end)
    {
        for (var i = first; i < end; i++)
            if (records.Kinds[i] == StitchKind.Stop) Stop(records.Messages.GetValueOrDefault(i, string.Empty));
            else Add(records.Kinds[i], records.At(i));
    }

    /// <summary>Takes back the jumps at the end: they led to something that does not come next.</summary>
    public void DropTrailingJumps() => DropTrailing(StitchKind.Jump);

    /// <summary>Takes back the trims at the end: the thread goes on.</summary>
    public void DropTrailingTrims() => DropTrailing(StitchKind.Trim);

    /// <summary>Takes back the stops at the end, with their messages.</summary>
    public void DropTrailingStops()
    {
        DropTrailing(StitchKind.Stop);
        foreach (var record in _messages.Keys.Where(r => r >= Count).ToList()) _messages.Remove(record);
    }

    private void DropTrailing(StitchKind kind)
    {
        var keep = Count;
        while (keep > 0 && _kinds[keep - 1] == kind) keep--;
        _x.RemoveRange(keep, Count - keep);
        _y.RemoveRange(keep, _y.Count - keep);
        _kinds.RemoveRange(keep, _kinds.Count - keep);
    }

    /// <summary>The place of a record, mm.</summary>
    public Point At(int index) => new(_x[index], _y[index]);

    /// <summary>The kind of a record.</summary>
    public StitchKind KindAt(int index) => _kinds[index];

    /// <summary>The blob of all records so far.</summary>
    public StitchBlob ToBlob() => new([.. _x], [.. _y], [.. _kinds], _messages.ToImmutable());
}
