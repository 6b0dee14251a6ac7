using System.Buffers.Binary;
using System.Runtime.InteropServices;

namespace EvenThimble.Core.Files;

/// <summary>What lies under a name in a folder, without opening it: opening a pipe would wait for ever, and a link may lead anywhere.</summary>
/// <param name="IsRegular">A file, and no link, pipe or device.</param>
/// <param name="Identity">Tells it from every other file, whatever it is called later.</param>
/// <param name="Bytes">Its size.</param>
public sealed record FileKind(bool IsRegular, string Identity, long Bytes)
{
    private const int InThisFolder = -100; // AT_FDCWD
    private const int NotThroughLinks = 0x100; // AT_SYMLINK_NOFOLLOW
    private const uint Basics = 0x7ff; // STATX_BASIC_STATS
    private const int TypeBits = 0xF000;
    private const int Regular = 0x8000;

    /// <summary>What lies under a path; null when nothing does.</summary>
    public static FileKind? Of(string path)
    {
        if (!OperatingSystem.IsLinux())
        {
            var info = new FileInfo(path);
            return info.Exists ? new(info.LinkTarget is null, $"{info.FullName} {info.CreationTimeUtc.Ticks}", info.Length) : null;
        }

        // The layout of statx is the same on every processor (linux/stat.h).
        var found = new byte[256];
        if (StatX(InThisFolder, path, NotThroughLinks, Basics, found) != 0) return null;
        var mode = BinaryPrimitives.ReadUInt16LittleEndian(found.AsSpan(28));
        var (inode, size) = (BinaryPrimitives.ReadUInt64LittleEndian(found.AsSpan(32)), BinaryPrimitives.ReadInt64LittleEndian(found.AsSpan(40)));
        var (major, minor) = (BinaryPrimitives.ReadUInt32LittleEndian(found.AsSpan(136)), BinaryPrimitives.ReadUInt32LittleEndian(found.AsSpan(140)));
        return new((mode & TypeBits) == Regular, $"{major}:{minor}:{inode}", size);
    }

    [DllImport("libc", EntryPoint = "statx", CharSet = CharSet.Ansi, BestFitMapping = false, ThrowOnUnmappableChar = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.SafeDirectories)]
    private static extern int StatX(int folder, [MarshalAs(UnmanagedType.LPUTF8Str)] string path, int flags, uint mask, byte[] found);
}
