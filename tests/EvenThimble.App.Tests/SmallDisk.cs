using System.Diagnostics;
using System.Globalization;

namespace EvenThimble.App.Tests;

/// <summary>
/// A folder on a disk that is soon full, for one server. Where the machine lets us mount one it is a file system of its own, seen by that server alone
/// (<c>unshare</c>, <c>tmpfs</c>); elsewhere the server may write no file longer than the room, which fails in the same places with another code.
/// </summary>
public sealed class SmallDisk(string folder, int kilobytes, int ballastKilobytes = 0)
{
    private const string BallastName = "ballast";

    /// <summary>Whether the disk is a real one.</summary>
    public bool IsMounted { get; } = Run("unshare", "--mount", "--map-root-user", "mount", "-t", "tmpfs", "tmpfs", "/mnt") == 0;

    /// <summary>The command that runs the given one with the folder on the small disk.</summary>
    public ProcessStartInfo Around(ProcessStartInfo asked)
    {
        var script = IsMounted
            ? string.Create(CultureInfo.InvariantCulture, $"""mount -t tmpfs -o size={kilobytes + ballastKilobytes}k tmpfs '{folder}' && head -c {ballastKilobytes}k /dev/zero > '{folder}/{BallastName}' && exec "$0" "$@" """)
            : string.Create(CultureInfo.InvariantCulture, $"""trap '' XFSZ && ulimit -S -f {kilobytes} && exec "$0" "$@" """);
        string[] before = IsMounted ? ["--mount", "--map-root-user", "bash", "-c", script] : ["-c", script];
        var wrapped = new ProcessStartInfo(IsMounted ? "unshare" : "bash", [.. before, asked.FileName, .. asked.ArgumentList]) { RedirectStandardOutput = true, RedirectStandardError = true };
        wrapped.Environment["DOTNET_EnableWriteXorExecute"] = "0"; // else the runtime asks for a file in memory that is longer than the limit
        return wrapped;
    }

    /// <summary>What the server sees in the folder, looked at from outside.</summary>
    public string SeenFrom(int process) => IsMounted ? $"/proc/{process}/root{folder}" : folder;

    /// <summary>Somebody makes room.</summary>
    public void MakeRoom(int process)
    {
        if (IsMounted) File.Delete(Path.Combine(SeenFrom(process), BallastName));
        else Run("prlimit", "--pid", process.ToString(CultureInfo.InvariantCulture), "--fsize=unlimited").ShouldBe(0);
    }

    private static int Run(string command, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(command, arguments) { RedirectStandardError = true, RedirectStandardOutput = true })!;
        process.WaitForExit();
        return process.ExitCode;
    }
}
