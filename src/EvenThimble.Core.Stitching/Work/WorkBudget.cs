using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Work;

/// <summary>
/// What a piece of work may cost, and whether somebody still waits for it. It flows with the work, as a culture does: whoever begins it says so once, and every long loop below spends from it.
/// Without one, as on the command line, work takes as long as it takes.
/// </summary>
public sealed class WorkBudget
{
    /// <summary>No plan and no file has more records than this.</summary>
    public const int MostRecords = 4_000_000;

    private const int StepsBetweenLooks = 2_048;
    private const long MostMemory = 250L << 20;
    private const long MemoryBetweenLooks = 48L << 20;
    private static readonly AsyncLocal<WorkBudget?> Flowing = new();
    private static readonly WorkBudget Free = new(TimeSpan.MaxValue, default);
    private readonly TimeSpan _most;
    private readonly CancellationToken _cancel;
    private readonly long _memoryBefore;
    private long _memoryToLookAt;
    private long _steps;
    private long _nextLook = StepsBetweenLooks;
    private int _thread = -1;
    private TimeSpan _seen;
    private TimeSpan _used;

    private WorkBudget(TimeSpan most, CancellationToken cancel)
    {
        (_most, _cancel, _memoryBefore) = (most, cancel, GC.GetTotalMemory(false));
        _memoryToLookAt = _memoryBefore + MostMemory;
    }

    /// <summary>The budget of the work that is being done.</summary>
    public static WorkBudget Current => Flowing.Value ?? Free;

    /// <summary>Begins work that may take so much time of a processor, and ends when a token says so. Dispose of the result when it is done.</summary>
    public static IDisposable Begin(TimeSpan processorTime, CancellationToken cancel = default)
    {
        var before = Flowing.Value;
        Flowing.Value = new(processorTime, cancel);
        return new Ending(before);
    }

    /// <summary>Spends some steps; a step is about what one stitch costs. Now and then it looks whether to go on.</summary>
    /// <exception cref="OperationCanceledException">Nobody waits any more.</exception>
    /// <exception cref="TooMuchWorkException">The budget is used up.</exception>
    public void Spend(long steps = 1)
    {
        if (ReferenceEquals(this, Free) || (_steps += steps) < _nextLook) return;
        Look();
    }

    /// <summary>Refuses a count of records that no plan may have.</summary>
    /// <exception cref="TooMuchWorkException">It is more than <see cref="MostRecords"/>.</exception>
    public static void CheckRecords(double records)
    {
        if (records > MostRecords) throw new TooMuchWorkException($"That would be more than {MostRecords:N0} stitches, far more than any machine takes. Make it smaller, or leave something out.");
    }

    /// <summary>Refuses to go deeper into what lies inside each other than the computer can.</summary>
    /// <exception cref="TooMuchWorkException">It is nested too deep.</exception>
    public static void CheckDepth()
    {
        if (!RuntimeHelpers.TryEnsureSufficientExecutionStack()) throw new TooMuchWorkException("That is too intricate to be worked out in one go. Make it simpler, or do it part by part.");
    }

    /// <summary>Looks at once whether to go on.</summary>
    /// <exception cref="OperationCanceledException">Nobody waits any more.</exception>
    /// <exception cref="TooMuchWorkException">The budget is used up.</exception>
    public void Look()
    {
        _nextLook = _steps + StepsBetweenLooks;
        _cancel.ThrowIfCancellationRequested();
        if (_most == TimeSpan.MaxValue) return;

        // Time of the processor, not of the clock: on a busy computer nothing is refused that is not on an idle one.
        var (thread, now) = (Environment.CurrentManagedThreadId, ThreadTime());
        if (thread == _thread) _used += now - _seen;
        (_thread, _seen) = (thread, now);
        if (_used > _most) throw new TooMuchWorkException("That would take too long to work out. Make it smaller or simpler, or do it part by part.");
        if (GC.GetTotalMemory(false) > _memoryToLookAt) LookAtMemory();
    }

    /// <summary>What is garbage does not count; it is swept each time that the heap has grown by some more.</summary>
    private void LookAtMemory()
    {
        GC.Collect();
        var held = GC.GetTotalMemory(false);
        if (held - _memoryBefore > MostMemory) throw new TooMuchWorkException("That would take too much memory to work out. Make it smaller or simpler, or do it part by part.");
        _memoryToLookAt = Math.Max(_memoryBefore + MostMemory, held + MemoryBetweenLooks);
    }

    private static TimeSpan ThreadTime() =>
        OperatingSystem.IsLinux() && ClockGetTime(ThreadClock, out var time) == 0 ? TimeSpan.FromSeconds(time.Seconds) + TimeSpan.FromMicroseconds(time.Nanoseconds / 1000.0) : TimeSpan.FromMilliseconds(Environment.TickCount64);

    private const int ThreadClock = 3; // CLOCK_THREAD_CPUTIME_ID

    [DllImport("libc", EntryPoint = "clock_gettime")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.SafeDirectories)]
    private static extern int ClockGetTime(int clock, out TimeSpec time);

    [StructLayout(LayoutKind.Sequential)]
    private struct TimeSpec
    {
        public long Seconds;
        public long Nanoseconds;
    }

    private sealed class Ending(WorkBudget? before) : IDisposable
    {
        public void Dispose() => Flowing.Value = before;
    }
}
