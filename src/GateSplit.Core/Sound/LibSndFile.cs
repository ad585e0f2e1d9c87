using System.Runtime.InteropServices;
using Microsoft.Win32.SafeHandles;

namespace GateSplit.Core.Sound;

/// <summary>The system's libsndfile, as sndfile.h has it.</summary>
internal static partial class LibSndFile
{
    /// <summary>SFM_READ.</summary>
    public const int Reading = 0x10;

    /// <summary>SFM_WRITE.</summary>
    public const int Writing = 0x20;

    [LibraryImport("libsndfile.so.1", EntryPoint = "sf_open", StringMarshalling = StringMarshalling.Utf8)]
    public static partial SndFile Open(string path, int mode, ref Info info);

    [LibraryImport("libsndfile.so.1", EntryPoint = "sf_open_virtual")]
    public static partial SndFile Open(ref PatchedFile.Callbacks table, int mode, ref Info info, IntPtr handle);

    [LibraryImport("libsndfile.so.1", EntryPoint = "sf_readf_int")]
    public static partial long ReadInts(SndFile file, [Out] int[] into, long frames);

    [LibraryImport("libsndfile.so.1", EntryPoint = "sf_readf_double")]
    public static partial long ReadDoubles(SndFile file, [Out] double[] into, long frames);

    [LibraryImport("libsndfile.so.1", EntryPoint = "sf_close")]
    private static partial int CloseFile(IntPtr file);

    [LibraryImport("libsndfile.so.1", EntryPoint = "sf_seek")]
    public static partial long Seek(SndFile file, long frames, int whence);

    [LibraryImport("libsndfile.so.1", EntryPoint = "sf_writef_int")]
    public static partial long WriteInts(SndFile file, int[] from, long frames);

    [LibraryImport("libsndfile.so.1", EntryPoint = "sf_command")]
    public static partial int Command(SndFile file, int command, ref double value, int size);

    /// <summary>SF_INFO of sndfile.h.</summary>
    [StructLayout(LayoutKind.Sequential)]
    public struct Info
    {
        public long Frames;
        public int SampleRate;
        public int Channels;
        public int Format;
        public int Sections;
        public int Seekable;
    }

    /// <summary>An open file of libsndfile.</summary>
    public sealed class SndFile : SafeHandleZeroOrMinusOneIsInvalid
    {
        public SndFile()
            : base(ownsHandle: true)
        {
        }

        /// <summary>What it reads through; null if it reads the file itself.</summary>
        public PatchedFile? Under { get; set; }

        protected override bool ReleaseHandle() => CloseFile(handle) == 0;

        protected override void Dispose(bool disposing)
        {
            base.Dispose(disposing);
            Under?.Dispose();
        }
    }
}
